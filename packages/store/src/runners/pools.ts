import { and, asc, eq, gt, isNotNull, isNull, sql } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { SavePool } from '@kindred-baton/contracts/runners/runner';
import type { PersonId } from '@kindred-baton/core/ids';
import { NOTICES } from '@kindred-baton/core/programmes/notices';
import type { NoticeWishes } from '@kindred-baton/core/programmes/notices';
import { LEASE_MS } from '@kindred-baton/core/runners/runner';
import { createId } from '../ids.ts';
import type { Context, Operation, Query, ReadContext } from '../operation.ts';
import { createPoolAddress } from '../programmes/pool-address.ts';
import { changeRuns } from '../runs/change-runs.ts';
import { cycles } from '../schema/cycles.ts';
import { people } from '../schema/people.ts';
import { members } from '../schema/programmes.ts';
import { pools, runners } from '../schema/runners.ts';
import { turns } from '../schema/turns.ts';
import { toDifference } from '../to-difference.ts';
import { breakOffAll } from './break-off.ts';

/** Nobody reads a pool's letters. */
const NO_LETTERS = Object.fromEntries(NOTICES.map((notice) => [notice, false])) as NoticeWishes;

/** A pool is a member of the programme that has no sign-in: turns are given to it as they are to people. */
export const addPool: Operation<SavePool, { id: PersonId }> = {
  right: 'run cycles',
  // Whoever is new belongs to no programme yet.
  reach: 'all programmes',
  run: async (context, { name, ...hours }) => {
    const { db, actor } = context;
    await requireFreeName(context, name);
    const id = createId<'person'>();
    await db.insert(people).values({ id, name, email: createPoolAddress(), emailVerified: false });
    await db.insert(members).values({ programmeId: actor.programmeId, personId: id, roles: ['tester'], notices: NO_LETTERS });
    await db.insert(pools).values({ id, programmeId: actor.programmeId, ...hours, days: sortDays(hours.days) });
    await context.record({ subject: 'programme', subjectId: id, action: 'pool added', details: { name } });
    return { id };
  },
};

const sortDays = (days: readonly number[]) => [...new Set(days)].sort((a, b) => a - b);

async function requireFreeName({ db, actor }: Context, name: string, own?: PersonId): Promise<void> {
  const rows = await db
    .select({ id: pools.id })
    .from(pools)
    .innerJoin(people, eq(people.id, pools.id))
    .innerJoin(members, and(eq(members.personId, pools.id), eq(members.programmeId, actor.programmeId), isNull(members.leftAt)))
    .where(and(eq(pools.programmeId, actor.programmeId), sql`lower(${people.name}) = lower(${name})`));
  if (rows.some(({ id }) => id !== own)) throw new AppError('conflict', `There is a pool named “${name}” already.`);
}

async function requirePool({ db, actor }: Pick<ReadContext, 'db' | 'actor'>, id: PersonId) {
  const [pool] = await db
    .select({ pool: pools, name: people.name })
    .from(pools)
    .innerJoin(people, eq(people.id, pools.id))
    .innerJoin(members, and(eq(members.personId, pools.id), eq(members.programmeId, actor.programmeId), isNull(members.leftAt)))
    .where(and(eq(pools.id, id), eq(pools.programmeId, actor.programmeId)));
  if (!pool) throw new AppError('not found', 'This programme has no such pool.');
  return pool;
}

/** Its name, and when its runners take turns. */
export const savePool: Operation<{ id: PersonId; pool: SavePool }, { done: true }> = {
  right: 'run cycles',
  run: async (context, { id, pool: { name, ...hours } }) => {
    const { db } = context;
    const known = await requirePool(context, id);
    await requireFreeName(context, name, id);
    const days = sortDays(hours.days);
    await db.update(people).set({ name }).where(eq(people.id, id));
    await db
      .update(pools)
      .set({ ...hours, days })
      .where(eq(pools.id, id));
    const details = toDifference({ ...known.pool, name: known.name }, { ...hours, days, name });
    await context.record({ subject: 'programme', subjectId: id, action: 'pool changed', details });
    return { done: true };
  },
};

/** Takes a pool away: its tokens are withdrawn, what it does is broken off, and its turns are with nobody. What it did stays. */
export const removePool: Operation<PersonId, { done: true }> = {
  right: 'run cycles',
  run: async (context, id) => {
    const { db, actor, now } = context;
    const { name } = await requirePool(context, id);
    const own = await db.select({ id: runners.id }).from(runners).where(eq(runners.poolId, id));
    await breakOffAll(context, { runners: own.map((runner) => runner.id), why: 'Its pool was taken away.' });
    await db.update(runners).set({ tokenHash: null }).where(eq(runners.poolId, id));
    const live = await db
      .select({ id: turns.id })
      .from(turns)
      .innerJoin(cycles, and(eq(cycles.id, turns.cycleId), sql`${cycles.state} <> 'closed'`))
      .where(eq(turns.assigneeId, id));
    if (live.length > 0)
      await changeRuns(context, { scope: { turns: live.map((turn) => turn.id) }, event: { kind: 'leave', personId: id, handTo: null } });
    await db
      .update(members)
      .set({ leftAt: now })
      .where(and(eq(members.programmeId, actor.programmeId), eq(members.personId, id)));
    await context.record({ subject: 'programme', subjectId: id, action: 'pool taken away', details: { name, turns: live.length } });
    return { done: true };
  },
};

/** To whom turns can be given besides people, with how many sessions stand behind each now. */
export const listPools: Query<void, { pools: { id: PersonId; name: string; sessions: number }[] }> = {
  right: 'read',
  read: async ({ db, actor, now }) => ({
    pools: await db
      .select({ id: pools.id, name: people.name, sessions: sql<number>`coalesce(sum(${runners.sessions}), 0)::int` })
      .from(pools)
      .innerJoin(people, eq(people.id, pools.id))
      .innerJoin(members, and(eq(members.personId, pools.id), eq(members.programmeId, actor.programmeId), isNull(members.leftAt)))
      .leftJoin(
        runners,
        and(
          eq(runners.poolId, pools.id),
          isNotNull(runners.tokenHash),
          isNotNull(runners.instance),
          gt(runners.heardAt, new Date(now.getTime() - LEASE_MS)),
        ),
      )
      .where(eq(pools.programmeId, actor.programmeId))
      .groupBy(pools.id, people.name)
      .orderBy(asc(people.name)),
  }),
};
