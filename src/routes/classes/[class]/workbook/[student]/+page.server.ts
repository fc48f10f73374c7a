import { allowInClass } from '$server/access/allow';
import { viewWorkbook } from '$server/copy/workbook';
import type { PageServerLoadEvent } from './$types';

/** A student's workbook, as the staff of the class see it. */
export const load = allowInClass(
  'see the class',
  async ({ params, depends }: PageServerLoadEvent, { app, grant }) => {
    depends('uncia:work');
    const { id, name, title } = grant.thing;
    const workbook = await viewWorkbook(app, grant, params.student);
    const { given, family } = workbook.student;
    return {
      trail: [{ title: `${name} ${title}`, to: `/classes/${id}` }, { title: `${given} ${family}` }],
      ...workbook,
      own: false,
      mayWrite: false,
    };
  },
);
