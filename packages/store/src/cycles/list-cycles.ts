import { and, count, countDistinct, desc, eq } from 'drizzle-orm';
import type { CycleList } from '@kindred-baton/contracts/cycles/cycle';
import type { CycleId } from '@kindred-baton/core/ids';
import { NO_COUNTS } from '@kindred-baton/core/progress/tally';
import type { Counts } from '@kindred-baton/core/progress/tally';
import type { Query, ReadContext } from '../operation.ts';
import { isRunInScope, isTurnInScope } from '../runs/in-scope.ts';
import { cycles, runs } from '../schema/cycles.ts';
import { environments } from '../schema/programmes.ts';
import { turns } from '../schema/turns.ts';

export const listCycles: Query<void, CycleList> = {
  right: 'read',
  read: async (context) => {
    const [rows, counts] = await Promise.all([loadRows(context), countTurns(context)]);
    return { cycles: rows.map((row) => ({ ...row, counts: counts.get(row.id) ?? NO_COUNTS })) };
  },
};

function loadRows({ db, actor }: ReadContext) {
  return db
    .select({
      id: cycles.id,
      code: cycles.code,
      name: cycles.name,
      state: cycles.state,
      purpose: cycles.purpose,
      environment: environments.name,
      startsOn: cycles.startsOn,
      endsOn: cycles.endsOn,
      runs: countDistinct(runs.id),
    })
    .from(cycles)
    .innerJoin(environments, eq(environments.id, cycles.environmentId))
    .leftJoin(runs, and(eq(runs.cycleId, cycles.id), isRunInScope))
    .where(eq(cycles.programmeId, actor.programmeId))
    .groupBy(cycles.id, environments.name)
    .orderBy(desc(cycles.startsOn));
}

async function countTurns({ db, actor }: ReadContext): Promise<Map<CycleId, Counts>> {
  const rows = await db
    .select({ cycleId: turns.cycleId, status: turns.status, turns: count() })
    .from(turns)
    .where(and(eq(turns.programmeId, actor.programmeId), isTurnInScope))
    .groupBy(turns.cycleId, turns.status);
  const counts = new Map<CycleId, Counts>();
  for (const row of rows) counts.set(row.cycleId, { ...(counts.get(row.cycleId) ?? NO_COUNTS), [row.status]: row.turns });
  return counts;
}
