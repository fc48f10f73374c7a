import { Transform } from 'prosemirror-transform';
import { schema } from '../src/lib/core/page/schema';
import { describe } from '../src/lib/core/proposals/describe';
import { offerOf } from '../src/lib/core/proposals/make-offer';
import { offerToJson } from '../src/lib/core/proposals/proposal';
import { separate } from '../src/lib/core/proposals/separate';
import type { App } from '../src/lib/server/app';
import { MINUTE, type School } from './school';

/** What Ms Orrey writes again and again, and how often she did. */
const PHRASES: readonly [text: string, used: number, shared: boolean][] = [
  ['{name}, say why, in one sentence.', 14, true],
  ['With its unit, please.', 11, true],
  ['Show the step before this one.', 6, true],
  ['Check this against your own table: does {words} fit it?', 5, false],
  ['A reader who was not at the quay should see it before them.', 3, false],
  ['Well seen, {name}. What follows from it?', 8, false],
];

/** What she proposes in what came back of *Rule of twelfths*, by the words that she met. */
const EDITS: readonly [over: string, becomes: string][] = [
  ['goes up', 'rises'],
  ['half of everything', 'half of the range'],
  ['the whole sea comes in at once', 'half of the water comes in two hours'],
  ['it hardly moves', 'it rises slowly'],
  ['because of waves.', 'because of waves. Add the half metre your skipper keeps under the keel.'],
  ['two and a half metres', '2.6 m'],
];

/** A phrasebook, and proposals that wait for their students. */
export async function giveFeedback(app: App, school: School): Promise<void> {
  const belongs = { school_id: school.id, owner_id: school.teacher };
  for (const [text, used, shared] of PHRASES) {
    const { id } = await app.db
      .insertInto('phrase')
      .values({ ...belongs, text, course_id: shared ? school.course : null })
      .returning('id')
      .executeTakeFirstOrThrow();
    const uses = Array.from({ length: used }, () => ({ phrase_id: id, person_id: school.teacher }));
    await app.db.insertInto('phrase_use').values(uses).execute();
  }
  const copies = await app.db
    .selectFrom('page')
    .innerJoin('event', 'event.page_id', 'page.id')
    .select(['page.id', 'event.at'])
    .where('page.class_id', '=', school.classes[0]?.id ?? '')
    .where('page.title', '=', 'Rule of twelfths')
    .where('event.kind', '=', 'handed back')
    .orderBy('event.id')
    .execute();
  for (const { id, at } of copies) await propose(app, school, id, at);
}

async function propose(app: App, school: School, page: string, back: Date) {
  const { doc, version } = await app.pages.open(page);
  const change = new Transform(doc);
  for (const [over, becomes] of EDITS) {
    let from = -1;
    change.doc.descendants((node, pos) => {
      const at = node.isText ? (node.text ?? '').indexOf(over) : -1;
      if (at >= 0 && from < 0) from = pos + at;
    });
    if (from >= 0) change.replaceWith(from, from + over.length, schema.text(becomes));
  }
  const edits = change.steps.map((step) => ({ step, edit: step }));
  for (const [index, { steps }] of separate(doc, edits).entries()) {
    const offer = offerOf(doc, steps);
    await app.db
      .insertInto('proposal')
      .values({
        ...describe(doc, offer),
        school_id: school.id,
        page_id: page,
        person_id: school.teacher,
        at: new Date(back.getTime() - 5 * MINUTE + index),
        version,
        offer: JSON.stringify(offerToJson(offer)),
        kept_back: true,
      })
      .execute();
  }
}
