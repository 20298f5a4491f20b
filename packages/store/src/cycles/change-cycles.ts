import { and, asc, eq, inArray } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { ChangeCycle, CreateCycle } from '@kindred-baton/contracts/cycles/cycle';
import { DEFAULT_RULES } from '@kindred-baton/core/cycles/rules';
import type { CycleId, ScenarioId } from '@kindred-baton/core/ids';
import { chunk } from '../chunk.ts';
import { createId } from '../ids.ts';
import type { Context, Operation } from '../operation.ts';
import { requireOwn } from '../programmes/require-own.ts';
import { loadChains } from '../scenarios/load-chains.ts';
import type { CycleRow } from '../schema/cycles.ts';
import { cycleEnvironments, cycles, runs } from '../schema/cycles.ts';
import { attempts, turns } from '../schema/turns.ts';
import { keepAssignees } from './make-turns.ts';
import { assignToLanes, planRuns, planTurns } from './plan-runs.ts';
import { lockCycle } from './require-cycle.ts';
import { toDifference } from '../to-difference.ts';

/** Plans a cycle: a run for each chosen data row, a turn for each leg, each turn to the least loaded person of its lane. */
export const createCycle: Operation<CreateCycle, { code: string }> = {
  right: 'run cycles',
  run: async (context, input) => {
    const { db, actor } = context;
    await requireOwn(context, { environmentId: input.environmentId, ownerId: input.ownerId });
    const { scenarios: loaded } = await loadChains(
      context,
      input.scope.map(({ scenarioId }) => scenarioId),
    );
    const id = createId<'cycle'>();
    const { scope, ownerId, ...fields } = input;
    const cycle = { ...fields, rules: input.rules ?? DEFAULT_RULES };
    await db.insert(cycles).values({ id, programmeId: actor.programmeId, ownerId: ownerId ?? actor.personId, ...cycle });
    const planned = planRuns(id, scope, loaded);
    for (const piece of chunk(planned)) await db.insert(runs).values(piece);
    const made = await planTurns(context, { ...cycle, id }, planned, loaded);
    const assigned = await assignToLanes(context, made);
    for (const piece of chunk(assigned)) await db.insert(turns).values(piece);
    await context.record({
      subject: 'cycle',
      subjectId: id,
      action: 'planned',
      details: { code: input.code, runs: planned.length, turns: assigned.length },
    });
    return { code: input.code };
  },
};

const FREE = ['name', 'ownerId', 'documents', 'endsOn'] as const;

/**
 * Changes what a cycle is: its name, dates, environment, rules. While it is planned freely; once it is open each change is recorded with
 * why, and what turns were made by stays as it is for turns that somebody has begun.
 */
export const changeCycle: Operation<{ code: string; change: ChangeCycle }, { done: true }> = {
  right: 'run cycles',
  run: async (context, { code, change }) => {
    const cycle = await lockCycle(context, code, ['planning', 'open', 'closing']);
    const { why, environments, ...fields } = change;
    await requireOwn(context, { environmentId: fields.environmentId, ownerId: fields.ownerId });
    const startsOn = fields.startsOn ?? cycle.startsOn;
    if (startsOn > (fields.endsOn ?? cycle.endsOn)) throw new AppError('invalid', 'The end is before the start.');
    const isPlanning = cycle.state === 'planning';
    if (!isPlanning && (why ?? '') === '' && Object.keys(change).some((name) => !(FREE as readonly string[]).includes(name)))
      throw new AppError('invalid', `Cycle ${code} is ${cycle.state}: say why it is changed; that is kept with it.`);
    if (!isPlanning && fields.startsOn !== undefined && fields.startsOn !== cycle.startsOn)
      throw new AppError('invalid', `Cycle ${code} began on ${cycle.startsOn}; that cannot be changed any more.`);
    if (Object.keys(fields).length > 0) await context.db.update(cycles).set(fields).where(eq(cycles.id, cycle.id));
    if (environments) await setEnvironments(context, cycle.id, environments);
    const isRemade = isPlanning && (fields.rules !== undefined || fields.startsOn !== undefined || fields.endsOn !== undefined);
    if (isRemade) await remakeTurns(context, { ...cycle, ...fields });
    const { before, after } = toDifference(cycle, fields);
    const details = { why: why ?? '', before, after: { ...after, ...(environments ? { environments } : {}) } };
    await context.record({ subject: 'cycle', subjectId: cycle.id, action: isPlanning ? 'changed' : 'changed while open', details });
    return { done: true };
  },
};

async function setEnvironments(context: Context, cycleId: CycleId, environments: NonNullable<ChangeCycle['environments']>): Promise<void> {
  for (const { applicationId, environmentId } of environments) await requireOwn(context, { applicationId, environmentId });
  await context.db.delete(cycleEnvironments).where(eq(cycleEnvironments.cycleId, cycleId));
  if (environments.length > 0) await context.db.insert(cycleEnvironments).values(environments.map((own) => ({ cycleId, ...own })));
}

interface Remake {
  /** The runs of this scenario alone. */
  readonly only?: ScenarioId;
  /** Where the cycle's days are what they were, so are those on which its turns are due. */
  readonly areDaysKept?: boolean;
}

/** The turns of runs that nobody has begun are made anew from their scenarios; who had them keeps them. Answers how many runs. */
export async function remakeTurns(context: Context, cycle: CycleRow, { only, areDaysKept = false }: Remake = {}): Promise<number> {
  const { db } = context;
  const begun = db
    .selectDistinct({ id: turns.runId })
    .from(turns)
    .innerJoin(attempts, eq(attempts.turnId, turns.id))
    .where(eq(turns.cycleId, cycle.id));
  const [all, begunRows] = await Promise.all([db.select().from(runs).where(eq(runs.cycleId, cycle.id)).orderBy(asc(runs.number)), begun]);
  const isBegun = new Set(begunRows.map(({ id }) => id));
  const own = all.filter((run) => !isBegun.has(run.id) && run.leftTo === null && (only === undefined || run.scenarioId === only));
  if (own.length === 0) return 0;
  const ids = own.map(({ id }) => id);
  const before = await db
    .select({ runId: turns.runId, legId: turns.legId, assigneeId: turns.assigneeId, dueOn: turns.dueOn })
    .from(turns)
    .where(inArray(turns.runId, ids));
  const { scenarios: loaded } = await loadChains(context, [...new Set(own.map((run) => run.scenarioId))]);
  const made = keepAssignees(await planTurns(context, cycle, own, loaded), before, areDaysKept);
  await db.delete(turns).where(and(eq(turns.cycleId, cycle.id), inArray(turns.runId, ids)));
  for (const piece of chunk(await assignToLanes(context, made))) await db.insert(turns).values(piece);
  return own.length;
}
