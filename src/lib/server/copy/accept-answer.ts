import type { CheckChange } from '$core/marking/check-change';
import { keyAccepting, type AnswerKey } from '$core/marking/answer-key';
import type { Grant } from '../access/grant';
import { grantOnPage } from '../access/in-the-name-of';
import { inTransaction } from '../db/transaction';
import { publishToClasses } from '../live/listeners';
import { Refusal } from '../page/refusal';
import type { Using } from '../services';
import { checkAgainIn, previewCheckAgain, type ProposedKeys } from './check-again';
import { readMarkedClasses, readScoredCopies } from './scored-copies';
import type { Connection } from '../page/page-store';

/** Answers to a part of an original's copies that are to count as right: those of a pile. */
export interface AcceptAsked {
  /** The original whose copies are meant. */
  page: string;
  part: string;
  answers: string[];
}

/** The keys that change when an answer is accepted, by their pages: that of an adapted page has it, too. */
async function acceptedKeys(
  db: Connection,
  grant: Pick<Grant<'mark its copies'>, 'thing' | 'person'>,
  { page, part, answers }: AcceptAsked,
): Promise<{ proposed: ProposedKeys; keys: { page: string; key: AnswerKey }[] }> {
  const classes = await readMarkedClasses(db, grant);
  const copies = await readScoredCopies(
    db,
    grant.thing.id,
    classes.map(({ id }) => id),
    grant.person.id,
  );
  const own = copies.filter(({ copy, keys }) => copy.for === page && keys[part]);
  const byPage = new Map(own.map(({ keyPage, keys }) => [keyPage, keys]));
  const keys = [...byPage].map(([id, all]) => {
    const key = keyAccepting(all[part] ?? null, answers);
    if (!key)
      throw new Refusal(
        409,
        'This cannot be added to the key. Please change the key in the original.',
      );
    return { page: id, key, all };
  });
  if (keys.length === 0)
    throw new Refusal(409, 'This part counts no points. Say first what it counts for.');
  return {
    proposed: new Map(keys.map(({ page: id, key, all }) => [id, { ...all, [part]: key }])),
    keys,
  };
}

/** Which copies come to something else when an answer is accepted. Nothing is changed. */
export async function previewAccept(
  app: Using<'db'>,
  grant: Grant<'mark its copies'>,
  asked: AcceptAsked,
): Promise<CheckChange[]> {
  const { proposed } = await acceptedKeys(app.db, grant, asked);
  return previewCheckAgain(app, grant, proposed);
}

/**
 * Adds an answer to the key, and checks all copies anew. Their students hear of it when the copies are handed back again.
 * @throws Refusal for who may not change the page that the key belongs to
 */
export async function acceptAnswer(
  app: Using<'db' | 'news' | 'findPage'>,
  grant: Grant<'mark its copies'>,
  asked: AcceptAsked,
): Promise<number> {
  const { keys } = await acceptedKeys(app.db, grant, asked);
  const pages = keys.map(({ page }) => page).sort();
  for (const page of pages) await grantOnPage(app, 'manage the page', grant.person.id, page);
  const classes = (await readMarkedClasses(app.db, grant)).map(({ id }) => id);
  const done = await inTransaction(app.db, async (tx) => {
    for (const page of pages)
      await tx.selectFrom('page').select('id').where('id', '=', page).forUpdate().execute();
    // Read again, now that nobody else accepts something: of these pages, which the person may change.
    const fresh = await acceptedKeys(tx, grant, asked);
    for (const { page, key } of fresh.keys.filter((one) => pages.includes(one.page)))
      await tx
        .updateTable('answer_key')
        .set({ body: JSON.stringify(key) })
        .where('page_id', '=', page)
        .where('part_id', '=', asked.part)
        .execute();
    return checkAgainIn(tx, grant, classes);
  });
  publishToClasses(app, [...done.classes]);
  return done.count;
}
