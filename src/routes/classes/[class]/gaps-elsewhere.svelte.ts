import type { Gap } from '$core/headcount/gap';
import { oneAtATime } from '$ui/one-at-a-time';
import { fetchJson } from '$ui/send';

/** The gaps for which pages are gone through, read behind the board; none until they are there. */
export class GapsElsewhere {
  now: readonly Gap[] = $state.raw([]);
  trouble = $state('');

  constructor(private readonly klass: string) {}

  readonly read = oneAtATime(async () => {
    try {
      this.now = await fetchJson<Gap[]>(`/classes/${this.klass}/gaps`);
      this.trouble = '';
    } catch (error) {
      this.trouble = error instanceof Error ? error.message : '';
    }
  });
}
