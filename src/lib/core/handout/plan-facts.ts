/** What a hand-out will do, fact by fact. `page`: the title, where the assignment has several. Instants in epoch milliseconds. */
export type PlanFact =
  | { kind: 'nobody'; classes: readonly string[] }
  | { kind: 'done or not'; students: number }
  /** One copy each; `adapted` of them begin as an adapted page. */
  | {
      kind: 'own copies';
      page: string | null;
      copies: number;
      adapted: number;
      classes: readonly string[];
    }
  | { kind: 'read'; page: string | null; students: number }
  | { kind: 'shared by class'; page: string | null; class: string; students: number }
  | {
      kind: 'shared by groups';
      page: string | null;
      pages: number;
      classes: readonly string[];
      students: number;
    }
  /** In no group. */
  | { kind: 'alone'; page: string | null; students: number }
  /** Beside a page that others share or read. */
  | { kind: 'adapted copies'; students: number }
  | { kind: 'goes out'; at: number }
  /** The classes of each due time; null for none. */
  | { kind: 'due'; times: readonly { at: number | null; classes: readonly string[] }[] }
  | { kind: 'guarded'; places: number }
  | { kind: 'not guarded' }
  | { kind: 'points'; points: string }
  | { kind: 'not taken late' }
  /** By `keys` of `parts`. */
  | { kind: 'marks itself'; keys: number; parts: number; back: boolean }
  /** Of a page that a class shares. */
  | { kind: 'each says done' };

/** What may surprise about a plan. It is said, and never refused. */
export type Oddity =
  | { kind: 'no such lesson'; class: string; nth: number }
  | { kind: 'nobody gets it'; class: string }
  | { kind: 'closed class'; class: string }
  | { kind: 'in several classes'; name: string; classes: readonly string[] }
  | { kind: 'adapted for others'; page: string; students: number }
  | { kind: 'adapts nothing'; page: string }
  | { kind: 'nowhere to write'; page: string }
  /** Of an assignment that marks itself. */
  | { kind: 'no answer keys'; page: string }
  | { kind: 'empty group'; group: string; class: string }
  | { kind: 'no groups'; class: string }
  | { kind: 'in no group'; name: string; class: string }
  | { kind: 'due in the past' }
  | { kind: 'due before it goes out'; class: string }
  | { kind: 'due after the term'; class: string; at: number }
  | { kind: 'due at midnight' }
  | { kind: 'due on a day without lesson'; class: string; at: number }
  | { kind: 'due outside a lesson'; class: string; at: number }
  | { kind: 'due in holidays'; class: string; at: number }
  /** A change of clock skips the time that was said, or has it twice; `at` is what is meant. */
  | { kind: 'due time is skipped'; local: string; at: number }
  | { kind: 'due time comes twice'; at: number }
  | { kind: 'goes out at night'; at: number }
  | { kind: 'goes out in holidays'; class: string };
