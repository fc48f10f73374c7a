import { z } from 'zod';

/** The id of a comment: a number of the database, which may be larger than JavaScript counts exactly. */
export const CommentId = z.string().regex(/^\d{1,18}$/);
