import { createHash } from 'node:crypto';

/** What is kept of a token: a copy of it opens nothing. */
export const hashOf = (token: string) => createHash('sha256').update(token).digest('hex');
