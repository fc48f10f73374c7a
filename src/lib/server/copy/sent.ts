import { sql, type RawBuilder } from 'kysely';

/** Whether a copy was handed back since something was written in its margin. */
const wentBack = (page: RawBuilder<unknown>, at: RawBuilder<unknown>) => sql<boolean>`exists (
  select from event back where back.page_id = ${page} and back.kind = 'handed back' and back.at >= ${at})`;

/** Whether the students whose page it is know of a comment by now. The rows in the query: `comment`, `thread`. */
export const COMMENT_SENT = sql<boolean>`(not thread.staff_only
  and (not comment.kept_back or ${wentBack(sql`thread.page_id`, sql`comment.at`)}))`;

/** The same of a proposal. The row in the query: `proposal`. */
export const PROPOSAL_SENT = sql<boolean>`(not proposal.kept_back
  or ${wentBack(sql`proposal.page_id`, sql`proposal.at`)})`;
