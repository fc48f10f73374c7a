import { sayClock, sayTime, when } from '$core/calendar/say-time';
import { sayKept, type KeptVersion } from '$core/history/kept-versions';
import type { PageHistory } from '$core/history/page-history';
import type { LineSitting } from '$core/history/work-line';
import { counted } from '$core/lists/counted';
import { listed } from '$core/lists/listed';
import type { Moment } from './moments';

/** What a history says in words, in the school's time. */
export class HistoryWords {
  constructor(
    private readonly history: PageHistory,
    private readonly now: number,
  ) {}

  readonly nameOf = (id: string | null): string => (id && this.history.names[id]) || '';

  private get begins(): string {
    const [first] = this.history.kept;
    return first ? sayKept(first) : 'begun';
  }

  /** Who wrote when in a version's sitting, how much came and went, and what of it was pasted. */
  sitting = (version: number): string => {
    const { line, timeZone } = this.history;
    const sitting = line.findLast(({ first, last }) => first <= version && version <= last);
    if (version === this.history.first || !sitting) return `As it was ${this.begins}`;
    return this.aboutSitting(sitting, timeZone);
  };

  private aboutSitting(
    { from, to, author, added, removed, strokes, pasted }: LineSitting,
    zone: string,
  ) {
    const until = to - from < 60_000 ? '' : ` to ${sayClock(to, zone)}`;
    const drawn = strokes > 0 ? `, ${counted(strokes, 'stroke')} drawn` : '';
    const much = `${counted(added, 'character')} added, ${removed} removed${drawn}`;
    const pastes = pasted.map(
      ({ at, characters }) => `${counted(characters, 'character')} at ${sayClock(at, zone)}`,
    );
    const says = pastes.length > 0 ? `${much}; pasted: ${listed(pastes)}` : much;
    return `${this.nameOf(author)}, ${sayTime(from, zone)}${until}: ${says}`;
  }

  kept = (kept: KeptVersion): string =>
    [sayKept(kept), this.nameOf(kept.by), when(kept.at, this.now, this.history.timeZone)]
      .filter(Boolean)
      .join(', ');

  /** When it stood like this: "now", a time, or "when it was handed out". */
  moment = ({ made, version }: Pick<Moment, 'made' | 'version'>): string => {
    if (version === this.history.version) return 'now';
    return made ? sayTime(made.at, this.history.timeZone) : `when it was ${this.begins}`;
  };

  /** What a moment can be compared with: each version once, then the other copies. */
  choices(marked: number): { value: string; label: string; group: string }[] {
    const { kept, version, others } = this.history;
    const moments = new Map(
      [
        { version: marked, label: 'the moment marked on the line' },
        { version, label: 'now' },
        ...kept.toReversed().map((one) => ({ version: one.version, label: this.kept(one) })),
      ].map(({ version, label }) => [version, label]),
    );
    return [
      ...[...moments]
        .sort(([one], [other]) => one - other)
        .map(([version, label]) => ({ value: String(version), label, group: 'This page' })),
      ...others.map(({ page, name }) => ({ value: page, label: name, group: 'Other copies' })),
    ];
  }
}
