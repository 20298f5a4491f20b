import { and, eq, isNull } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { PersonId } from '@kindred-baton/core/ids';
import type { Receiver } from '@kindred-baton/core/turns/decide/event';
import { hasRight } from '@kindred-baton/core/programmes/roles';
import type { ReadContext } from '../operation.ts';
import { people } from '../schema/people.ts';
import { members } from '../schema/programmes.ts';
import { pools } from '../schema/runners.ts';
import { loadTeamsOf } from './load-doer.ts';

/** Whoever a turn is given to; refuses somebody who is not of this programme, or who may only look on. */
export async function requireReceiver(context: Pick<ReadContext, 'db' | 'actor'>, personId: PersonId): Promise<Receiver> {
  const { db, actor } = context;
  const [found] = await db
    .select({ name: people.name, roles: members.roles, poolId: pools.id })
    .from(members)
    .leftJoin(pools, eq(pools.id, members.personId))
    .innerJoin(people, eq(people.id, members.personId))
    .where(and(eq(members.personId, personId), eq(members.programmeId, actor.programmeId), isNull(members.leftAt)));
  if (!found) throw new AppError('invalid', 'This programme has no such person.');
  if (!hasRight(found.roles, 'make attempts'))
    throw new AppError(
      'invalid',
      `${found.name} has no role that makes attempts (${found.roles.join(', ')}). Give it to a tester, or give her that role.`,
    );
  return { personId, teams: await loadTeamsOf(context, personId), isPool: found.poolId !== null };
}
