import { and, eq, isNull } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { PersonId } from '@kindred-baton/core/ids';
import { hasRight } from '@kindred-baton/core/programmes/roles';
import type { ReadContext } from '../operation.ts';
import { people } from '../schema/people.ts';
import { members } from '../schema/programmes.ts';

/** Refuses to give a turn to somebody who is not of this programme, or who may only look on. */
export async function requireReceiver({ db, actor }: Pick<ReadContext, 'db' | 'actor'>, personId: PersonId): Promise<void> {
  const [found] = await db
    .select({ name: people.name, roles: members.roles })
    .from(members)
    .innerJoin(people, eq(people.id, members.personId))
    .where(and(eq(members.personId, personId), eq(members.programmeId, actor.programmeId), isNull(members.leftAt)));
  if (!found) throw new AppError('invalid', 'This programme has no such person.');
  if (!hasRight(found.roles, 'make attempts'))
    throw new AppError(
      'invalid',
      `${found.name} has no role that makes attempts (${found.roles.join(', ')}). Give it to a tester, or give her that role.`,
    );
}
