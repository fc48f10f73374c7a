import { type RequestEvent } from '@sveltejs/kit';
import { rowsFromRubric } from '$core/formats/rubric-table';
import { allowInCourse } from '$server/access/allow';
import { openRubric } from '$server/course/rubrics';
import { download } from '$server/http/download';
import { writeCsv, writeXlsx } from '$server/import/tables';

/** The rubric as a table, .xlsx or .csv, in the form it can be read from. */
export const GET = allowInCourse(
  'see the course',
  async ({ url, params }: RequestEvent, { app, grant }) => {
    const { title, table } = await openRubric(app.db, grant, params.rubric);
    const rows = rowsFromRubric(table);
    return url.searchParams.get('as') === 'csv'
      ? download(`${title}.csv`, 'text/csv; charset=utf-8', writeCsv(rows))
      : download(
          `${title}.xlsx`,
          'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
          await writeXlsx(title, rows),
        );
  },
);
