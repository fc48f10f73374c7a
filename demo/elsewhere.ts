import { Transform } from 'prosemirror-transform';
import type { App } from '../src/lib/server/app';
import { insertOwnPage } from '../src/lib/server/copy/own-pages';
import { inTransaction } from '../src/lib/server/db/transaction';
import { HeldPage } from '../src/lib/server/page/held-page';
import { emptyPage, schema } from '../src/lib/core/page/schema';
import { textOf } from '../src/lib/core/page/parts';
import { ORIGINALS } from './originals';
import { putWritten } from './put-written';
import { MINUTE, type School } from './school';

/** Whose copy of *Harbour sketch* is empty: the place in 8C. */
const STUDENT = 2;
const WORDS = [
  'I see the headland first because it is the highest thing, and it is dark even in rain.',
  'Steps 1.2, crane 2.4, slip 0.6 and at the end 2.3, all in metres.',
  'The sketch must show the end light and the crane, and where it is deep. It may leave out the café.',
];

/** A student wrote on a page of their own what belonged on their copy: the questions, and the answers below. */
export async function workElsewhere(app: App, school: School): Promise<void> {
  const [klass] = school.classes;
  const original = ORIGINALS.find(({ key }) => key === 'sketch');
  const student = klass?.students[STUDENT];
  if (!klass || !original || !student) throw new Error('the demo has nobody who works elsewhere');
  const begins = emptyPage();
  const id = await inTransaction(app.db, (tx) =>
    insertOwnPage(
      tx,
      { school: school.id, class: klass.id, student, title: 'My way in', unit: null },
      begins,
    ),
  );
  const asked = original.page.children.filter(({ isTextblock }) => isTextblock).map(textOf);
  const lines = [...asked, ...WORDS].map((line) =>
    schema.nodes.paragraph.create(null, schema.text(line)),
  );
  const at = school.now - 95 * MINUTE;
  const [step] = new Transform(begins).insert(0, lines).steps;
  if (!step) throw new Error('nothing was written');
  const held = HeldPage.at(0, begins, []).with(step, 'demo-elsewhere', 1, student, at);
  await putWritten(app, school, [
    {
      id,
      begins,
      held,
      rows: [
        {
          page_id: id,
          version: 1,
          school_id: school.id,
          author_id: student,
          at: new Date(at),
          client: 'demo-elsewhere',
          client_no: 1,
          body: step.toJSON() as object,
        },
      ],
      snapshots: [],
      events: [],
      scores: [],
    },
  ]);
}
