import { grantInClass } from '../src/lib/server/access/in-the-name-of';
import type { App } from '../src/lib/server/app';
import { describeClass } from '../src/lib/server/class/set-up';
import { beginClassPage } from '../src/lib/server/course/begin-page';
import { copyPages } from '../src/lib/server/course/copy-pages';
import { readListedPages, readUnits } from '../src/lib/server/course/units';
import type { DemoClass } from './school';
import { h, list, p, page, table } from './write-page';
import { inTransaction } from '../src/lib/server/db/transaction';

/** What lies in a class beside its assignments: the course's readings, a page for everybody, a key for staff, a welcome. */
export async function fillClass(
  app: App,
  spec: { school: number; course: string; class: DemoClass; teacher: string; at: Date },
): Promise<void> {
  const { school, at, teacher, class: klass } = spec;
  const courseUnits = await readUnits(app.db, { course: spec.course });
  const { units } = klass;
  for (const [place, unit] of units.entries())
    await app.db
      .updateTable('unit')
      .set({ from_id: courseUnits[place]?.id ?? null })
      .where('id', '=', unit)
      .execute();
  const pages = await readListedPages(app.db, { course: spec.course });
  const shelf = { kind: 'class page', class: klass.id, area: 'shelf' } as const;
  for (const [place, unit] of courseUnits.entries()) {
    const readings = pages.filter((one) => one.unit === unit.id && one.kind === 'reading');
    if (readings.length > 0)
      await inTransaction(app.db, (tx) =>
        copyPages(app.memory, tx, {
          school,
          pages: readings.map(({ id }) => id),
          at,
          in: shelf,
          unit: units[place] ?? null,
        }),
      );
  }
  const grant = await grantInClass(app.db, 'manage the class', teacher, klass.id);
  await beginClassPage(
    app.db,
    grant,
    { at, title: 'Words we found', unit: units[1], area: 'worktable' },
    page(
      p('Each of you adds a word from the light list, and what it means.'),
      list('loom: the glow of a light that is still below the horizon'),
    ),
  );
  await beginClassPage(
    app.db,
    grant,
    { at, title: 'Depths along the quay, checked', unit: units[1], area: 'cupboard' },
    page(
      table([
        ['steps', 'crane', 'slip', 'end'],
        ['1.2 m', '2.4 m', '0.6 m', '2.3 m'],
      ]),
    ),
  );
  await beginClassPage(
    app.db,
    grant,
    { at, title: `Welcome to ${klass.name}`, area: 'welcome' },
    page(
      p(
        'This term you learn to read a coast: what the water does, what the lights say, and how to draw a place so that a skipper trusts it.',
      ),
      h(1, 'What you need'),
      list('a soft pencil', 'a ruler', 'boots, on the days I tell you'),
    ),
  );
  await describeClass(app.db, grant, {
    name: klass.name,
    about: 'Room 12, every Tuesday after school, or a word in the margin of your page.',
  });
}
