import { error } from '@sveltejs/kit';
import { sittingsOf } from '$core/history/sittings';
import { allowOnPage } from '$server/access/allow';
import { readStudents } from '$server/class/board';
import { readCopies } from '$server/copy/facts';
import { openCopy, readAssignment, readRecord, writingTimes } from '$server/copy/open-copy';
import { readKeys } from '$server/course/answer-keys';
import { readTimeZone } from '$server/school/time-zone';
import type { PageServerLoadEvent } from './$types';

export const load = allowOnPage(
  'mark',
  async ({ depends, params }: PageServerLoadEvent, { app, person, thing }) => {
    depends('uncia:marking');
    if (
      thing.kind !== 'copy' ||
      thing.class_id !== params.class ||
      !thing.source_id ||
      !thing.student_id
    )
      error(404, 'There is no such copy in this class.');
    const open = await openCopy(app, thing.id, person.id);
    const assignment = await readAssignment(app, open.copy);
    const students = await readStudents(app.db, params.class);
    const copies = await readCopies(app.db, { class: params.class }, person.id);
    const theirs = new Map(
      copies
        .filter((copy) => copy.assignment === assignment.id)
        .map((copy) => [copy.student, copy]),
    );
    const title = `${assignment.class} ${assignment.course}`;
    return {
      trail: [{ title, to: `/classes/${params.class}` }, { title: assignment.title }],
      ...{
        page: thing.id,
        student: thing.student_id,
        ...open,
        assignment,
        timeZone: await readTimeZone(app.db, thing.school_id),
      },
      students: students.flatMap((student) => {
        const copy = theirs.get(student.id);
        return copy ? [{ ...student, copy }] : [];
      }),
      keys: await readKeys(app.db, thing.source_id),
      record: await readRecord(app, thing.id),
      sittings: sittingsOf(await writingTimes(app, thing.id, thing.student_id)),
      now: Date.now(),
    };
  },
);
