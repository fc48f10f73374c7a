import {
  besideInLine,
  inLine,
  isDealtTo,
  isToMark,
  lineUp,
  type InLine,
  type LineOrder,
} from '$core/marking/marking-line';
import type { CopyRow } from '$core/copy/copy-row';

export interface LineEntry extends InLine {
  copy: CopyRow;
}
export interface LineChoice {
  order: LineOrder;
  unmarkedOnly: boolean;
  /** Copies that are dealt to others, too. */
  all: boolean;
}

/** The line of copies that somebody goes through. It is formed when they come, and when they choose another order. */
export class CopyLine {
  static readonly FIRST: LineChoice = { order: 'waiting', unmarkedOnly: false, all: false };

  private copies: readonly LineEntry[] = $state.raw([]);
  private formed: readonly string[] = $state.raw([]);
  choice: LineChoice = $state.raw(CopyLine.FIRST);
  private person = $state.raw('');

  /** @param person who goes through it */
  constructor(copies: readonly LineEntry[], choice: LineChoice, person: string) {
    this.person = person;
    this.copies = copies;
    this.choose(choice);
  }

  /** The copies as they stand now: their places stay. */
  take(copies: readonly LineEntry[]): void {
    this.copies = copies;
  }
  choose(choice: LineChoice): void {
    this.choice = choice;
    this.formed = lineUp(this.copies, choice.order);
  }

  shown(current: string): LineEntry[] {
    return inLine(this.copies, this.formed, {
      unmarkedOnly: this.choice.unmarkedOnly,
      dealtTo: this.dealtTo,
      current,
    });
  }
  beside(current: string, by: 1 | -1): LineEntry | null {
    return besideInLine(this.shown(current), current, by);
  }

  /** Whether some of them are dealt to whoever goes through. */
  readonly hasOwn = $derived(this.copies.some((one) => isDealtTo(one, this.person)));
  private readonly dealtTo = $derived(this.choice.all ? null : this.person);
  private readonly own = $derived(
    inLine(this.copies, [], { unmarkedOnly: false, dealtTo: this.dealtTo, current: '' }),
  );
  readonly toMark = $derived(this.own.filter(isToMark).length);
  /** How many are scored, or back. */
  readonly marked = $derived(
    this.own.filter(
      (one) =>
        !isToMark(one) &&
        (one.given || (one.copy.facts.scored ?? one.copy.facts.handedBack) !== null),
    ).length,
  );
  readonly hasGroups = $derived(this.copies.some(({ group }) => group !== ''));
}
