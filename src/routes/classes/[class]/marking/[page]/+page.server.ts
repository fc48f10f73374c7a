import { error } from '@sveltejs/kit';
import { sittingsOf } from '$core/history/sittings';
import { allowOnPage } from '$server/access/allow';
import { may } from '$server/access/table';
import { readStudents } from '$server/class/board';
import { readCopies } from '$server/copy/facts';
import { openCopy, readAssignment, readRecord, writingTimes } from '$server/copy/open-copy';
import { readCopyKeys } from '$server/course/answer-keys';
import { readTimeZone } from '$server/school/time-zone';
import type { PageServerLoadEvent } from './$types';

export const load = allowOnPage(
  'mark',
  async ({ depends, params }: PageServerLoadEvent, { app, person, thing, relation }) => {
    depends('uncia:marking');
    if (
      thing.kind !== 'copy' ||
      thing.delivery === 'to read' ||
      thing.class_id !== params.class ||
      !thing.source_id ||
      !thing.for_id
    )
      error(404, 'There is no such copy in this class.');
    const open = await openCopy(app, thing.id, person.id);
    const assignment = await readAssignment(app, open.copy);
    const students = await readStudents(app.db, params.class);
    const copies = await readCopies(app.db, { class: params.class }, person.id);
    const theirs = copies.filter(
      (copy) => copy.assignment === assignment.id && copy.for === thing.for_id,
    );
    const namesOf = ({ members }: { members: readonly string[] }) =>
      students.filter(({ id }) => members.includes(id));
    const title = `${assignment.class} ${assignment.course}`;
    return {
      trail: [{ title, to: `/classes/${params.class}` }, { title: assignment.title }],
      ...{
        page: thing.id,
        ...open,
        assignment,
        timeZone: await readTimeZone(app.db, thing.school_id),
      },
      // In the order of their students; a shared copy stands at its first.
      owners: students.flatMap((student) => {
        const copy = theirs.find(({ members }) => members.includes(student.id));
        if (!copy || namesOf(copy)[0]?.id !== student.id) return [];
        return [
          { copy, name: copy.student ? student.name : copy.group || `all of ${assignment.class}` },
        ];
      }),
      who: namesOf(open.copy).map(({ given, family }) => `${given} ${family}`),
      keys: await readCopyKeys(app.db, { source: thing.source_id, for: thing.for_id }),
      record: await readRecord(app, thing.id),
      sittings: sittingsOf(await writingTimes(app, thing.id)),
      mayChange: may('run the assignment', relation),
      now: Date.now(),
    };
  },
);
