import { sql, type RawBuilder } from 'kysely';

/** Whether a copy was handed back since something was written in its margin. */
const wentBack = (page: RawBuilder<unknown>, at: RawBuilder<unknown>) => sql<boolean>`exists (
  select from event back where back.page_id = ${page} and back.kind = 'handed back' and back.at >= ${at})`;

const stands = (comment: RawBuilder<unknown>) => sql<boolean>`not exists (
  select from comment_withdrawal gone where gone.comment_id = ${comment}.id)`;

const wentOut = (comment: RawBuilder<unknown>) => sql<boolean>`((not ${comment}.kept_back
  or ${wentBack(sql`thread.page_id`, sql`${comment}.at`)}) and ${stands(comment)})`;

/** Whether a comment was not withdrawn. The row in the query: `comment`. */
export const COMMENT_STANDS = stands(sql`comment`);

/**
 * Whether the students whose page it is know of a comment by now; that a thread is settled, they know once they know of words
 * in it. The rows in the query: `comment`, `thread`.
 */
export const COMMENT_SENT = sql<boolean>`(not thread.staff_only and case when comment.kind = 'said' then
  ${wentOut(sql`comment`)} else exists (select from comment said
    where said.thread_id = thread.id and said.kind = 'said' and ${wentOut(sql`said`)}) end)`;

/** The same of a proposal. The row in the query: `proposal`. */
export const PROPOSAL_SENT = sql<boolean>`(not proposal.kept_back
  or ${wentBack(sql`proposal.page_id`, sql`proposal.at`)})`;
