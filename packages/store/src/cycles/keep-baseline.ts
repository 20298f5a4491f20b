import type { CycleId } from '@kindred-baton/core/ids';
import { and, eq, sql } from 'drizzle-orm';
import type { Database } from '../database.ts';
import { isTurnInScope } from '../runs/in-scope.ts';
import { baselines, cycles } from '../schema/cycles.ts';
import { turns } from '../schema/turns.ts';

/** Notes by when the turns of a cycle are planned to be done: on the days on which they are due, what has none by its end. Once; it is not written again. */
export async function keepBaseline({ db }: { readonly db: Pick<Database, 'execute'> }, cycleId: CycleId): Promise<void> {
  const day = sql`coalesce(${turns.dueOn}, ${cycles.endsOn})`;
  await db.execute(sql`
    insert into ${baselines} (programme_id, cycle_id, day, team_id, node_id, turns, minutes)
    select ${cycles.programmeId}, ${cycles.id}, ${day}, ${turns.teamId}, ${turns.nodeId}, count(*), sum(${turns.minutes})
    from ${turns} join ${cycles} on ${eq(cycles.id, turns.cycleId)} where ${and(eq(turns.cycleId, cycleId), isTurnInScope)}
    group by 1, 2, 3, 4, 5`);
}
