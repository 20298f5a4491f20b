import { AppError } from '@kindred-baton/contracts/errors';
import type { ProgressView } from '@kindred-baton/contracts/progress/progress';
import { and, asc, desc, eq } from 'drizzle-orm';
import type { ReadContext } from '../operation.ts';
import { findCurrentCycle } from '../programmes/find-current-cycle.ts';
import type { CycleRow } from '../schema/cycles.ts';
import { cycles } from '../schema/cycles.ts';

/** The cycle that is asked for, else the current one; undefined where there is none yet. */
export async function findCycle(context: ReadContext, code: string | undefined): Promise<CycleRow | undefined> {
  if (code === undefined) return findCurrentCycle(context);
  const [cycle] = await context.db
    .select()
    .from(cycles)
    .where(and(eq(cycles.programmeId, context.actor.programmeId), eq(cycles.code, code)));
  if (!cycle) throw new AppError('not found', `There is no cycle ${code}.`);
  return cycle;
}

export const toSpan = ({ code, name, state, startsOn, endsOn }: CycleRow): NonNullable<ProgressView['cycle']> => ({
  ...{ code, name, state, startsOn, endsOn },
});

/** All of them, to choose from; the newest first. */
export function listCycleNames({ db, actor }: ReadContext): Promise<ProgressView['cycles']> {
  return db
    .select({ code: cycles.code, name: cycles.name })
    .from(cycles)
    .where(eq(cycles.programmeId, actor.programmeId))
    .orderBy(desc(cycles.startsOn), asc(cycles.code));
}
