import { z } from 'zod';
import { isActiveStatus } from './oneroster-csv';
import type { Entry } from '../roster/read-roster';

/** What Uncia reads of the answers of OneRoster 1.2 (1EdTech), REST binding, rostering service. */
const Base = { sourcedId: z.string().min(1).max(255), status: z.string().default('active') };

export const ClassesAnswer = z.object({
  classes: z.array(
    z.object({ ...Base, title: z.string().max(500), classCode: z.string().max(255).nullish() }),
  ),
});

export const UsersAnswer = z.object({
  users: z.array(
    z.object({
      ...Base,
      givenName: z.string().trim().min(1).max(100),
      familyName: z.string().trim().min(1).max(100),
      email: z.string().max(255).nullish(),
      username: z.string().trim().max(255).nullish(),
      /** A text in 1.1, a boolean in 1.2. */
      enabledUser: z.union([z.boolean(), z.stringbool()]).nullish(),
    }),
  ),
});

/** Records that are to be deleted, or were, say so in their status. */
const isActive = ({ status }: { status: string }) => isActiveStatus(status);

export const classesOf = ({ classes }: z.infer<typeof ClassesAnswer>) =>
  classes
    .filter(isActive)
    .map(({ sourcedId, title, classCode }) => ({ sourcedId, title, code: classCode ?? '' }));

export const entriesOf = ({ users }: z.infer<typeof UsersAnswer>): Entry[] =>
  users.filter(isActive).map((user) => ({
    line: null,
    given: user.givenName,
    family: user.familyName,
    email: (user.email ?? '').toLowerCase(),
    officeId: user.sourcedId,
    signIn: (user.username ?? '').toLowerCase(),
    enabled: user.enabledUser ?? undefined,
  }));
