import { writeMoment } from '$core/board/board-view';
import type { Hours } from '$core/board/hours';
import { fetchJson } from '$ui/send';
import type { WorkedRow } from '$server/class/hours';

/** Hours do not change with every letter: they are read again after so long, in milliseconds. */
const READ_AGAIN = 60_000;

/** When the students of a class worked on their copies; read while it is shown. */
export class HoursOfClass {
  trouble = $state('');
  private rows: Readonly<Record<string, WorkedRow>> = $state.raw({});

  /** @param at the moment they are looked back to, in epoch milliseconds; null for now */
  constructor(
    private readonly klass: string,
    private readonly at: () => number | null,
  ) {}

  of = (copy: string, student: string): Hours | null => this.rows[`${copy} ${student}`] ?? null;

  private async read(): Promise<void> {
    const at = this.at();
    const search = at === null ? '' : `?at=${writeMoment(at)}`;
    try {
      const rows = await fetchJson<WorkedRow[]>(`/classes/${this.klass}/hours${search}`);
      this.rows = Object.fromEntries(rows.map((row) => [`${row.copy} ${row.student}`, row]));
      this.trouble = '';
    } catch (error) {
      this.trouble = error instanceof Error ? error.message : '';
    }
  }

  /** Reads them now, and again and again. For an effect. @returns what ends it */
  follow(): () => void {
    void this.read();
    const timer = setInterval(() => void this.read(), READ_AGAIN);
    return () => clearInterval(timer);
  }
}
