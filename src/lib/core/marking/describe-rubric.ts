import type { RubricTable } from './rubric';

/** What stands where in a rubric, so that two of them can be compared by a person. */
export function describeRubric(
  title: string,
  { levels, criteria }: RubricTable,
): Map<string, string> {
  const words = new Map([
    ['Title', title],
    ['Levels', levels.join(', ')],
  ]);
  criteria.forEach((criterion, index) => {
    words.set(`Criterion ${index + 1}`, criterion.title);
    criterion.descriptors.forEach((text, at) => {
      if (text) words.set(`Criterion ${index + 1}, ${levels[at]} points`, text);
    });
  });
  return words;
}
