/** What a spreadsheet takes for a formula (OWASP, CSV Injection), and what stands already as if it were guarded. */
const LIKE_A_FORMULA = /^'*[=+\-@\t\r]/;
const NUMBER = /^-?\d+([.,]\d+)?$/;

/** A cell that a spreadsheet takes as text, whatever it says. `withoutGuard` gives it back to the letter. */
export const guarded = (cell: string): string =>
  LIKE_A_FORMULA.test(cell) && !NUMBER.test(cell) ? `'${cell}` : cell;

/** The cell as it was before it was guarded; any other as it is. */
export const withoutGuard = (cell: string): string =>
  /^'+[=+\-@\t\r]/.test(cell) ? cell.slice(1) : cell;
