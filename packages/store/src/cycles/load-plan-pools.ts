import type { CyclePlanView } from '@kindred-baton/contracts/cycles/plan';
import { addDays, getWeekday } from '@kindred-baton/core/time/calendar';
import { and, asc, eq, isNotNull, isNull, sql } from 'drizzle-orm';
import type { ReadContext } from '../operation.ts';
import { people } from '../schema/people.ts';
import { members } from '../schema/programmes.ts';
import { pools, runners } from '../schema/runners.ts';

/** Pools as lanes of their own: so many sessions as their runners had when they were last heard of, in the pool's hours. */
export async function loadPlanPools(
  { db, actor }: Pick<ReadContext, 'db' | 'actor'>,
  { firstDay, days }: { readonly firstDay: string; readonly days: number },
): Promise<CyclePlanView['pools']> {
  const rows = await db
    .select({
      ...{ id: pools.id, name: people.name, open: pools.days, opensAt: pools.opensAt, closesAt: pools.closesAt },
      sessions: sql<number>`coalesce(sum(${runners.sessions}), 0)::int`,
    })
    .from(pools)
    .innerJoin(people, eq(people.id, pools.id))
    .innerJoin(members, and(eq(members.personId, pools.id), eq(members.programmeId, actor.programmeId), isNull(members.leftAt)))
    .leftJoin(runners, and(eq(runners.poolId, pools.id), isNotNull(runners.tokenHash)))
    .where(eq(pools.programmeId, actor.programmeId))
    .groupBy(pools.id, people.name)
    .orderBy(asc(people.name));
  return rows.map(({ id, name, sessions, open, opensAt, closesAt }) => ({
    ...{ id, name, sessions, startsAt: opensAt },
    minutesByDay: Array.from({ length: days }, (_, ahead) =>
      open.includes(getWeekday(addDays(firstDay, ahead))) ? closesAt - opensAt : 0,
    ),
  }));
}
