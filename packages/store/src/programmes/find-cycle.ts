import type { CycleChoice } from '@kindred-baton/contracts/cycles/choice';
import { AppError } from '@kindred-baton/contracts/errors';
import type { ProgressView } from '@kindred-baton/contracts/progress/progress';
import { pickCycles } from '@kindred-baton/core/cycles/cycle-groups';
import { asc, desc, eq } from 'drizzle-orm';
import type { ReadContext } from '../operation.ts';
import { findCurrentCycle } from './find-current-cycle.ts';
import type { CycleRow } from '../schema/cycles.ts';
import { cycles } from '../schema/cycles.ts';

/** The cycles that are asked for, the newest first; a code that none has is refused. Of a group, as many as it has, be it none. */
export async function findCycles({ db, actor }: ReadContext, choice: CycleChoice): Promise<CycleRow[]> {
  const all = await db
    .select()
    .from(cycles)
    .where(eq(cycles.programmeId, actor.programmeId))
    .orderBy(desc(cycles.startsOn), asc(cycles.code));
  if (!Array.isArray(choice)) return pickCycles(choice, all);
  const unknown = choice.find((code) => all.every((cycle) => cycle.code !== code));
  if (unknown !== undefined) throw new AppError('not found', `There is no cycle ${unknown}.`);
  return all.filter(({ code }) => choice.includes(code));
}

/** The cycle that is asked for, else the current one; undefined where there is none yet. */
export async function findCycle(context: ReadContext, code: string | undefined): Promise<CycleRow | undefined> {
  return code === undefined ? findCurrentCycle(context) : (await findCycles(context, [code]))[0];
}

/** The cycles that are asked for; where none is, the current one. */
export async function findChosen(context: ReadContext, choice: CycleChoice | undefined): Promise<CycleRow[]> {
  if (choice !== undefined) return findCycles(context, choice);
  const current = await findCurrentCycle(context);
  return current ? [current] : [];
}

export const toSpan = ({ code, name, state, startsOn, endsOn }: CycleRow): ProgressView['chosen'][number] => ({
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
