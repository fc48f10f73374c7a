import { error, type RequestEvent } from '@sveltejs/kit';
import { rowsFromRubric } from '$core/formats/rubric-table';
import { readRubric } from '$core/marking/rubric';
import { allowInCourse } from '$server/access/allow';
import { findRubric } from '$server/course/rubrics';
import { download } from '$server/http/download';
import { writeCsv, writeXlsx } from '$server/import/tables';

/** The rubric as a table, .xlsx or .csv, in the form it can be read from. */
export const GET = allowInCourse(
  'see the course',
  async ({ url, params }: RequestEvent, { app, thing }) => {
    const rubric = await findRubric(app.db, thing.id, params.rubric ?? '');
    if (!rubric) error(404, 'This rubric is not in the course any more.');
    const rows = rowsFromRubric(readRubric(rubric.body));
    return url.searchParams.get('as') === 'csv'
      ? download(`${rubric.title}.csv`, 'text/csv; charset=utf-8', writeCsv(rows))
      : download(
          `${rubric.title}.xlsx`,
          'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
          await writeXlsx(rubric.title, rows),
        );
  },
);
