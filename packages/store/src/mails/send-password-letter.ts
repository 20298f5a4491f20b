import { and, asc, eq, isNull } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { PersonId } from '@kindred-baton/core/ids';
import type { Store } from '../database.ts';
import { createId } from '../ids.ts';
import type { Operation } from '../operation.ts';
import { enterProgramme } from '../operation.ts';
import { mails } from '../schema/mails.ts';
import { people } from '../schema/people.ts';
import { members } from '../schema/programmes.ts';
import { SITE } from './write-mails.ts';

/** A letter with a link that sets a new password, once. Whoever belongs to no programme any more gets none. */
export async function sendPasswordLetter(
  store: Store,
  to: { readonly id: string; readonly name: string; readonly email: string },
  token: string,
): Promise<void> {
  const [home] = await store.db
    .select({ programmeId: members.programmeId })
    .from(members)
    .where(and(eq(members.personId, to.id as PersonId), isNull(members.leftAt)))
    .orderBy(asc(members.programmeId))
    .limit(1);
  if (!home) return;
  const now = store.now();
  await store.db.transaction(async (db) => {
    await enterProgramme(db, home);
    await db.insert(mails).values({
      ...{ id: createId<'mail'>(), ...home, to: to.email, toName: to.name, createdAt: now, nextTryAt: now },
      subject: 'A new password for Kindred Baton',
      text: `Dear ${to.name},\n\nhere you choose a new password. The link works once, and for an hour:\n${SITE}/password/${token}\n\nIf nobody asked for it, leave it: your password stays as it is.\n\nKindred Baton`,
    });
  });
}

/** The mail address of a member, for a link that whoever administers sends her; noted in the history. */
export const askForPassword: Operation<PersonId, { email: string }> = {
  right: 'set up the programme',
  run: async (context, personId) => {
    const { db, actor } = context;
    const [found] = await db
      .select({ email: people.email })
      .from(members)
      .innerJoin(people, eq(people.id, members.personId))
      .where(and(eq(members.programmeId, actor.programmeId), eq(members.personId, personId), isNull(members.leftAt)));
    if (!found) throw new AppError('not found', 'There is no such person in this programme.');
    await context.record({ subject: 'programme', subjectId: personId, action: 'link for a new password sent', details: {} });
    return found;
  },
};
