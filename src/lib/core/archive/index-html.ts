import { escape, href, htmlPage } from './html';

/** What the first page of an archive leads to. Paths begin at that page. */
export interface ArchiveIndex {
  title: string;
  about: readonly string[];
  /** Columns of the table: titles of assignments. */
  assignments: readonly string[];
  students: readonly {
    name: string;
    /** For each assignment what a student has of it: nothing, or pages. */
    copies: readonly (readonly { says: string; path: string }[])[];
    own: readonly { says: string; path: string }[];
  }[];
  /** What lies beside the students' work, in groups. */
  others: readonly { title: string; files: readonly { says: string; path: string }[] }[];
}

const link = ({ says, path }: { says: string; path: string }): string =>
  `<a href="${href(path)}">${escape(says)}</a>`;
const list = (files: readonly { says: string; path: string }[]): string =>
  `<ul>${files.map((file) => `<li>${link(file)}</li>`).join('')}</ul>`;

/** The first page: students × assignments, and all else, linked. */
export function indexHtml(index: ArchiveIndex): string {
  const hasOwn = index.students.some(({ own }) => own.length > 0);
  const head = [...index.assignments, ...(hasOwn ? ['Own pages'] : [])];
  const rows = index.students.map(({ name, copies, own }) => {
    const cells = [...copies, ...(hasOwn ? [own] : [])];
    return `<tr><th scope="row">${escape(name)}</th>${cells.map((cell) => `<td>${cell.map(link).join('<br>')}</td>`).join('')}</tr>`;
  });
  return htmlPage(
    index.title,
    [
      `<h1>${escape(index.title)}</h1><p class="about">${index.about.map(escape).join(' · ')}</p>`,
      `<div style="overflow-x:auto"><table><thead><tr><th>Student</th>${head.map((title) => `<th scope="col">${escape(title)}</th>`).join('')}</tr></thead><tbody>${rows.join('')}</tbody></table></div>`,
      ...index.others
        .filter(({ files }) => files.length > 0)
        .map(({ title, files }) => `<h2>${escape(title)}</h2>${list(files)}`),
    ].join('\n'),
    true,
  );
}
