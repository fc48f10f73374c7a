/** A cell of a board whose student can be reminded of it. */
export interface CellToRemind {
  class: string;
  copy: string;
  student: string;
  /** "Ada Fennick" */
  name: string;
  assignment: string;
  title: string;
}
