import type { RubricTable } from './rubric';

/** What stands where in a rubric, by the names of its criteria, so that two of them can be compared by a person. */
export function describeRubric(
  title: string,
  { levels, criteria }: RubricTable,
): Map<string, string> {
  const words = new Map([
    ['Title', title],
    ['Levels', levels.join(', ')],
    ['Criteria', criteria.map((one) => one.title).join(', ')],
  ]);
  const seen = new Map<string, number>();
  for (const criterion of criteria) {
    const times = (seen.get(criterion.title) ?? 0) + 1;
    seen.set(criterion.title, times);
    const name = times === 1 ? criterion.title : `${criterion.title} (${times})`;
    criterion.descriptors.forEach((text, at) => {
      if (text) words.set(`${name}, ${levels[at]} points`, text);
    });
  }
  return words;
}
