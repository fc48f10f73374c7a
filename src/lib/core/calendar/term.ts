/** A term as the term line draws it; dates as "2026-10-26", both ends included. */
export interface TermView {
  name: string;
  starts: string;
  ends: string;
  holidays: { name: string; starts: string; ends: string }[];
}
