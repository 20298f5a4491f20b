import { pushTo } from '@kindred-baton/core/push-to';
import { and, eq, sql } from 'drizzle-orm';
import type { CyclePlanView, PlanTurn } from '@kindred-baton/contracts/cycles/plan';
import type { PersonId, TurnId } from '@kindred-baton/core/ids';
import type { Context } from '../operation.ts';
import { cycles } from '../schema/cycles.ts';
import { testVersions, tests } from '../schema/tests.ts';
import { turns } from '../schema/turns.ts';

export interface ForRunners {
  readonly turns: readonly PlanTurn[];
  /** Turns that were asked for and stay with people: a step is done by hand, nobody has written the steps, or another leg of theirs is the pool's already. */
  readonly stay: number;
}

/** Of these turns those that runners do: of tests that are done by runners, or of any test whose steps say all. */
export async function chooseForRunners(
  { db, actor }: Context,
  plan: CyclePlanView & { readonly code: string },
  { free, which, poolId }: { readonly free: readonly PlanTurn[]; readonly which: 'done by runners' | 'all'; readonly poolId: PersonId },
): Promise<ForRunners> {
  // In a cycle that is planned nothing is pinned yet: then it is the newest agreed version.
  const newest = sql`(select id from ${testVersions} own where own.test_id = ${turns.testId} and own.state = 'agreed' order by own.number desc limit 1)`;
  const rows = await db
    .select({
      id: turns.id,
      runBy: tests.runBy,
      isWritten: sql<boolean>`${testVersions.id} is not null`,
      isByHand: sql<boolean>`coalesce(${testVersions.steps} @> '[{"do": "hand"}]'::jsonb, false)`,
    })
    .from(turns)
    .innerJoin(cycles, and(eq(cycles.id, turns.cycleId), eq(cycles.code, plan.code)))
    .leftJoin(tests, eq(tests.id, turns.testId))
    .leftJoin(testVersions, eq(testVersions.id, sql`coalesce(${turns.versionId}, ${newest})`))
    .where(eq(turns.programmeId, actor.programmeId));
  const factsOf = new Map(rows.map((row): [TurnId, typeof row] => [row.id, row]));
  const asked = free.filter(({ id }) => which === 'all' || factsOf.get(id)?.runBy === 'runner');
  const fit = asked.filter(({ id }) => factsOf.get(id)?.isWritten === true && !factsOf.get(id)?.isByHand);
  const kept = keepApart(plan, fit, poolId);
  return { turns: kept, stay: asked.length - kept.length };
}

/** Four eyes: of two legs that two must do a pool gets one. */
function keepApart(plan: CyclePlanView, wanted: readonly PlanTurn[], poolId: PersonId): PlanTurn[] {
  const has = new Map<PlanTurn['run'], PlanTurn[]>();
  for (const turn of plan.turns) if (turn.person === poolId) pushTo(has, turn.run, turn);
  return wanted.filter((turn) => {
    const mates = (has.get(turn.run) ?? []).filter(({ id }) => id !== turn.id);
    const isBarred = mates.some((mate) => turn.otherPersonThan.includes(mate.index) || mate.otherPersonThan.includes(turn.index));
    if (!isBarred) pushTo(has, turn.run, turn);
    return !isBarred;
  });
}
