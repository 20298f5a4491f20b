import { and, eq } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { CycleState } from '@kindred-baton/core/cycles/cycle';
import type { Context, ReadContext } from '../operation.ts';
import type { CycleRow } from '../schema/cycles.ts';
import { cycles } from '../schema/cycles.ts';

/** The programme's cycle of a code. */
export async function requireCycle({ db, actor }: Pick<ReadContext, 'db' | 'actor'>, code: string): Promise<CycleRow> {
  const [cycle] = await db
    .select()
    .from(cycles)
    .where(and(eq(cycles.programmeId, actor.programmeId), eq(cycles.code, code)));
  if (!cycle) throw new AppError('not found', `There is no cycle ${code}.`);
  return cycle;
}

/** The same, locked for a change, and refused in a state that does not allow it. */
export async function lockCycle({ db, actor }: Context, code: string, states: readonly CycleState[]): Promise<CycleRow> {
  const [cycle] = await db
    .select()
    .from(cycles)
    .where(and(eq(cycles.programmeId, actor.programmeId), eq(cycles.code, code)))
    .for('update');
  if (!cycle) throw new AppError('not found', `There is no cycle ${code}.`);
  if (!states.includes(cycle.state))
    throw new AppError('conflict', `Cycle ${code} is ${cycle.state}; that is changed while it is ${states.join(' or ')}.`);
  return cycle;
}
