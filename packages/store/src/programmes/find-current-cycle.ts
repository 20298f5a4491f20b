import { desc, eq, sql } from 'drizzle-orm';
import type { ReadContext } from '../operation.ts';
import type { CycleRow } from '../schema/cycles.ts';
import { cycles } from '../schema/cycles.ts';

/** The cycle that the strip and progress show when none is asked for: open, else closing, else the newest with turns. */
export async function findCurrentCycle({ db, actor }: Pick<ReadContext, 'db' | 'actor'>): Promise<CycleRow | undefined> {
  const rank = sql`case ${cycles.state} when 'open' then 0 when 'closing' then 1 when 'closed' then 2 else 3 end`;
  const [cycle] = await db
    .select()
    .from(cycles)
    .where(eq(cycles.programmeId, actor.programmeId))
    .orderBy(rank, desc(cycles.startsOn))
    .limit(1);
  return cycle;
}
