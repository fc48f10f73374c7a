import type { PageNews, StepsMessage } from '$core/page/protocol';
import type { Grant } from '../access/grant';
import { isOwnTo } from '../access/table';
import type { Using } from '../services';
import { tellOfWriting } from '../copy/tell-of-feedback';
import { inTransaction } from '../db/transaction';
import { picturesIn, placePictures } from '../file/files';
import { log } from '../log';
import { Refusal } from './refusal';
import { seenFrom } from './seen-from';

/** @throws Refusal for what was before the page came into somebody's sight */
function checkSeen(grant: Grant<'read the page'> | Grant<'write the page'>, since: number) {
  if (since < seenFrom(grant))
    throw new Refusal(409, 'This page was shown anew. Please open it again.');
}

/** What happened to a page since a version. @throws Refusal */
export function newsSince(
  app: Using<'pages' | 'news'>,
  grant: Grant<'read the page'>,
  since: number,
): Promise<PageNews> {
  checkSeen(grant, since);
  app.news.isIn(grant.person.id, grant.thing.id);
  return app.pages.newsSince(grant.thing.id, since);
}

/** Appends a client's steps, brought up to date. @throws Refusal */
export async function appendSteps(
  app: Using<'db' | 'findPage' | 'pages' | 'news'>,
  grant: Grant<'write the page'>,
  message: StepsMessage,
): Promise<PageNews> {
  checkSeen(grant, message.base);
  const { person, relation, thing } = grant;
  app.news.isIn(person.id, thing.id);
  await placePictures(app, person, thing.id, picturesIn(message.steps));
  const writer = { id: person.id, owner: isOwnTo(relation) };
  const news = await app.pages.append(thing.id, writer, message);
  if (!writer.owner && thing.kind === 'copy' && message.steps.length > 0)
    await inTransaction(app.db, (tx) => tellOfWriting(tx, grant));
  return news;
}

/** A page at its newest version. `differs`: a browser asks since its own page is another, which must not be. */
export async function openNewest(
  app: Using<'pages'>,
  { thing }: Grant<'read the page'>,
  differs: boolean,
) {
  const { id: page, version } = thing;
  if (differs) log.error({ page, version }, "a browser's page differed from the log's");
  const held = await app.pages.open(page);
  return { doc: held.doc.toJSON() as object, version: held.version };
}
