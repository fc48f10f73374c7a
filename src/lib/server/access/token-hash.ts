import { createHash } from 'node:crypto';

/** What is stored of a token that lets somebody in: from it nobody gets the token. */
export const hashOf = (token: string): string => createHash('sha256').update(token).digest('hex');
