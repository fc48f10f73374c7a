import { sql } from 'kysely';
import { pagesOf } from '../copy/holders';
import { planHandOut } from '$core/handout/plan';
import { Refusal } from '../page/refusal';
import type { Grant } from '../access/grant';
import { may } from '../access/table';
import type { Using } from '../services';
import { readStudents } from '../class/board';
import { readCopies } from '../copy/facts';
import { readAllowances } from './allowances';
import { readOutdated } from './corrections';
import { readHandedOut } from './handed-out';
import { readAssignmentChanges, readNewestChange } from './undo';

/** An assignment as the staff of one of its classes see it. */
export async function viewAssignment(
  app: Using<'db' | 'memory'>,
  {
    thing: { id: assignment, class: klass },
    person: viewer,
  }: Grant<'see the assignment'> | Grant<'change the assignment'>,
  now: number,
) {
  const found = await readHandedOut(app.memory, app.db, assignment, { now });
  const { spec, made_by, standing, situation } = found;
  const classes = await app.db
    .selectFrom('assignment_class')
    .innerJoin('class', 'class.id', 'assignment_class.class_id')
    .select(['class.id', 'class.name', 'due_at', 'handed_out_at', 'withdrawn_at'])
    .where('assignment_id', '=', assignment)
    .orderBy('class.name')
    .execute();
  const has = new Set(
    standing
      .filter((copy) => copy.standing === 'current')
      .flatMap((copy) => copy.members.map((id) => `${id} ${copy.for}`)),
  );
  const missing = planHandOut(spec, situation)
    .copies.filter((copy) => copy.class === klass.id)
    .flatMap((copy) => copy.members.filter((id) => !has.has(`${id} ${copy.for}`)));
  const by = await app.db
    .selectFrom('person')
    .select(['given', 'called'])
    .where('id', '=', made_by)
    .executeTakeFirstOrThrow();
  const copies = (await readCopies(app.db, { class: klass.id }, viewer.id)).filter(
    (copy) => copy.assignment === assignment,
  );
  const adapted = new Set(
    standing.filter((copy) => copy.source !== copy.for).map((copy) => copy.id),
  );
  return {
    id: assignment,
    spec,
    by: by.called || by.given,
    classes: classes.map(({ due_at, handed_out_at, withdrawn_at, ...row }) => ({
      ...row,
      due: due_at?.getTime() ?? null,
      handedOut: handed_out_at.getTime(),
      withdrawn: withdrawn_at !== null,
    })),
    pages: spec.originals.map(({ page, delivery }) => ({
      id: page,
      delivery,
      title: situation.pages.get(page)?.title ?? '',
    })),
    students: await readStudents(app.db, klass.id),
    // An adapted page is marked for the staff, and for nobody else.
    copies: copies.map((copy) => ({ ...copy, adapted: adapted.has(copy.id) })),
    missing: [...new Set(missing)],
    kept: standing.filter((copy) => copy.standing !== 'current' && copy.class === klass.id).length,
    allowances: await readAllowances(app.db, assignment),
    outdated: await readOutdated(app, assignment),
    changes: await readAssignmentChanges(app.db, assignment),
    newest: await readNewestChange(app.db, assignment),
  };
}

/** What one student really has of an assignment, on their own rights. @throws Refusal when they are not in the class */
export async function whatTheyHave(
  app: Using<'db' | 'findPage' | 'pages'>,
  { thing }: Grant<'see the assignment'>,
  student: string,
) {
  if (!(await readStudents(app.db, thing.class.id)).some(({ id }) => id === student))
    throw new Refusal(404, 'This student is not in the class.');
  const pages = await app.db
    .selectFrom('page')
    .select(['id'])
    .where('assignment_id', '=', thing.id)
    .where('page.id', '=', sql<string>`any(${pagesOf(student)})`)
    .orderBy('made_at')
    .execute();
  const seen = await Promise.all(
    pages.map(async ({ id }) => {
      const found = await app.findPage(student, id);
      if (!found || !may('see own copy', found.relation)) return [];
      const { doc } = await app.pages.open(id);
      const { title, delivery, replaced_at } = found.thing;
      const mayWrite = may('write the page', found.relation);
      return [
        {
          id,
          title,
          delivery,
          mayWrite,
          replaced: replaced_at !== null,
          doc: doc.toJSON() as object,
        },
      ];
    }),
  );
  return seen.flat();
}
