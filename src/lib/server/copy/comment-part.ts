import { z } from 'zod';
import { CommentId } from '$core/copy/comment-id';
import { placeOfPart } from '$core/page/parts';
import { fillBlanks, LONGEST } from '$core/phrasebook/phrase';
import type { Grant } from '../access/grant';
import { grantOnPage } from '../access/in-the-name-of';
import { Refusal, refusalIn } from '../page/refusal';
import type { Using } from '../services';
import { addComment, beginThread, type Said } from './threads';
import { setWithdrawn } from './withdraw-comment';

/** A comment on one part of several copies. */
export const PartComment = z.object({
  part: z.string().max(200),
  copies: z.array(z.uuid()).min(1).max(500, 'Please comment at most 500 copies at once.'),
  text: z
    .string()
    .trim()
    .min(1, 'There are no words to send yet.')
    .max(LONGEST, `A comment has at most ${LONGEST} characters.`),
  keptBack: z.boolean(),
});

/** What became of it. */
export interface PartCommented {
  said: (Said & { copy: string })[];
  /** Copies that took nothing. */
  left: number;
}

/**
 * Says the same on one part of several copies, each in a thread of its own with its student's name filled in.
 * @returns what was said on which copies, and how many took nothing: closed meanwhile, or without this part
 * @throws Refusal when one of them is none of the assignment's copies, or the person may not comment on it
 */
export async function commentPart(
  app: Using<'db' | 'news' | 'pages' | 'findPage'>,
  { thing, person }: Grant<'mark its copies'>,
  { part, copies, text, keptBack }: z.infer<typeof PartComment>,
): Promise<PartCommented> {
  const rows = await app.db
    .selectFrom('page')
    .leftJoin('person', 'person.id', 'page.student_id')
    .select(['page.id', 'person.given', 'person.called'])
    .where('page.id', 'in', copies)
    .where('page.assignment_id', '=', thing.id)
    .execute();
  if (rows.length < new Set(copies).size)
    throw new Refusal(404, 'One of these copies is not there any more. Please look again.');
  const grants = [];
  for (const { id } of rows) grants.push(await grantOnPage(app, 'comment', person.id, id));
  const said: PartCommented['said'] = [];
  for (const [index, row] of rows.entries()) {
    const grant = grants[index];
    const held = await app.pages.open(row.id);
    const place = placeOfPart(held.doc, part);
    if (!grant || !place) continue;
    const blanks = { name: row.called || row.given || '', work: thing.title, words: '' };
    try {
      const one = await beginThread(app, grant, {
        text: fillBlanks(text, blanks),
        anchor: { ...place, version: held.version },
        keptBack,
        pile: { part, text },
      });
      said.push({ copy: row.id, ...one });
    } catch (error) {
      // The others have theirs, and are not to get it twice.
      if (!refusalIn(error)) throw error;
    }
  }
  return { said, left: rows.length - said.length };
}

/** What was said on a pile, to be undone. */
export const PartUncomment = z.object({
  said: z
    .array(z.object({ copy: z.uuid(), thread: z.uuid(), comment: CommentId }))
    .min(1)
    .max(500),
  keptBack: z.boolean(),
});

/**
 * Undoes what one said on a pile: what was kept back is withdrawn; what students have stays said, and is settled.
 * @returns of how many copies it could not be undone: they were answered or went back meanwhile, or are closed
 */
export async function uncommentPart(
  app: Using<'db' | 'news' | 'findPage'>,
  { person }: Grant<'mark its copies'>,
  { said, keptBack }: z.infer<typeof PartUncomment>,
): Promise<{ left: number }> {
  let left = 0;
  for (const { copy, thread, comment } of said) {
    const grant = await grantOnPage(app, 'comment', person.id, copy);
    try {
      if (keptBack) await setWithdrawn(app, grant, comment, true);
      else await addComment(app, grant, thread, { kind: 'settled', text: '', after: comment });
    } catch (error) {
      if (!refusalIn(error)) throw error;
      left += 1;
    }
  }
  return { left };
}
