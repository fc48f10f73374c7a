import { type RequestEvent } from '@sveltejs/kit';
import { rowsFromGradebook } from '$core/formats/gradebook-table';
import { gradeRows } from '$core/grades/gradebook';
import { allowInClass } from '$server/access/allow';
import { viewGradebook } from '$server/grades/gradebook';
import { download } from '$server/http/download';
import { writeCsv, writeXlsx } from '$server/import/tables';

/** The gradebook as a table, .xlsx or .csv. */
export const GET = allowInClass('see the class', async ({ url }: RequestEvent, { app, grant }) => {
  const { klass, students, copies, now, ...book } = await viewGradebook(app.db, grant);
  const ids = students.map(({ id }) => id);
  const rows = rowsFromGradebook(book, students, gradeRows(book, copies, ids, now));
  const title = `${klass.name} ${klass.title}, gradebook`;
  return url.searchParams.get('as') === 'csv'
    ? download(`${title}.csv`, 'text/csv; charset=utf-8', writeCsv(rows))
    : download(
        `${title}.xlsx`,
        'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
        await writeXlsx(title, rows, true),
      );
});
