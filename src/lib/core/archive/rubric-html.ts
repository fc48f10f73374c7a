import type { RubricTable } from '../marking/rubric';
import { escape, htmlPage } from './html';

/** A rubric as a table of HTML. */
export function rubricHtml(title: string, { levels, criteria }: RubricTable): string {
  const head = levels.map((points) => `<th scope="col">${points}</th>`).join('');
  const rows = criteria.map(
    (criterion) =>
      `<tr><th scope="row">${escape(criterion.title)}</th>${criterion.descriptors.map((says) => `<td>${escape(says)}</td>`).join('')}</tr>`,
  );
  return htmlPage(
    title,
    `<h1>${escape(title)}</h1><table><thead><tr><th></th>${head}</tr></thead><tbody>${rows.join('')}</tbody></table>`,
  );
}
