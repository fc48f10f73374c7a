const DAY = 86_400_000;

/** The weeks of a term, Monday to Sunday, counted from its first; with the days of each that are school days. */
export function weeksOf(
  term: { starts: string; ends: string },
  holidays: readonly { starts: string; ends: string }[],
): { number: number; monday: string; schoolDays: number }[] {
  const iso = (at: number) => new Date(at).toISOString().slice(0, 10);
  const first = Date.parse(term.starts);
  const monday = first - ((new Date(first).getUTCDay() + 6) % 7) * DAY;
  const weeks: { number: number; monday: string; schoolDays: number }[] = [];
  for (let at = monday; iso(at) <= term.ends; at += 7 * DAY) {
    const schoolDays = [0, 1, 2, 3, 4].filter((day) => {
      const date = iso(at + day * DAY);
      const inTerm = date >= term.starts && date <= term.ends;
      return inTerm && !holidays.some(({ starts, ends }) => date >= starts && date <= ends);
    }).length;
    weeks.push({ number: weeks.length + 1, monday: iso(at), schoolDays });
  }
  return weeks;
}
