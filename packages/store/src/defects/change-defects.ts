import { and, eq, sql } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { LogDefect, LogDefectApart, MoveDefect } from '@kindred-baton/contracts/defects/defect';
import type { WorkingCalendar } from '@kindred-baton/core/time/calendar';
import { toDay } from '@kindred-baton/core/time/calendar';
import { isLive } from '@kindred-baton/core/cycles/cycle';
import { isAtRetest, mayMoveDefect } from '@kindred-baton/core/defects/defect';
import { describeSteps } from '@kindred-baton/core/defects/describe-steps';
import type { PersonId, TeamId } from '@kindred-baton/core/ids';
import { resolveNeeds } from '@kindred-baton/core/turns/assess-run';
import { createStepSource } from '@kindred-baton/core/turns/step-source';
import type { Actor } from '../actor.ts';
import { requireRight } from '../actor.ts';
import { getPath, loadTree } from '../map/load-tree.ts';
import { tellDefect, tellNewDefect } from '../mails/tell.ts';
import type { Context, Operation } from '../operation.ts';
import { cycles } from '../schema/cycles.ts';
import { defects, defectTurns } from '../schema/defects.ts';
import { environments, programmes, teams } from '../schema/programmes.ts';
import { personas } from '../schema/personas.ts';
import { stepResults } from '../schema/turns.ts';
import { changeRuns } from '../runs/change-runs.ts';
import type { OwnAttempt } from '../runs/own-attempt.ts';
import { lockSeenAttempt } from '../runs/own-attempt.ts';
import { loadRuns } from '../runs/load-runs.ts';

/** Logs a defect at a step of an own attempt, or of one that runners made; the program fills in the steps up to there with the values that were used. */
export const logDefect: Operation<LogDefect, { code: string }> = {
  right: 'log defects',
  run: async (context, input) => {
    const { db, actor, now } = context;
    const [same] = await db.select({ code: defects.code }).from(defects).where(eq(defects.id, input.id));
    if (same) return same;
    const own = await lockSeenAttempt(context, input.attemptId);
    if (!own.steps[input.stepIndex]) throw new AppError('invalid', `This test has no step ${input.stepIndex + 1}.`);
    const { number, code } = await takeNumber(context);
    await db.insert(defects).values({
      ...input,
      ...{
        number,
        code,
        programmeId: actor.programmeId,
        cycleId: own.turn.cycleId,
        teamId: own.turn.teamId,
        persona: await findPersona(context, own, input.stepIndex),
      },
      steps: await describeStepsSoFar(context, own, input.stepIndex),
      ...{ environment: own.attempt.environment, browser: own.attempt.browser, foundBy: actor.personId, foundAt: now, changedAt: now },
    });
    const event = { kind: 'log defect' as const, defect: input.id, code, title: input.title, turn: own.turn.id };
    await changeRuns(context, { scope: { turns: [own.turn.id] }, event });
    await tellNewDefect(context, { code, title: input.title, severity: input.severity, at: own.turn.title });
    return { code };
  },
};

/** Logs a defect that was seen at no turn: at a node of the map, while a cycle that is not over was tested. It holds nothing up, and counts as any other. */
export const logDefectApart: Operation<LogDefectApart, { code: string }> = {
  right: 'log defects',
  run: async (context, { cycle: cycleCode, node: nodeCode, ...told }) => {
    const { db, actor, now } = context;
    const [same] = await db.select({ code: defects.code }).from(defects).where(eq(defects.id, told.id));
    if (same) return same;
    const [cycle] = await db
      .select({ id: cycles.id, state: cycles.state, environment: environments.name })
      .from(cycles)
      .innerJoin(environments, eq(environments.id, cycles.environmentId))
      .where(and(eq(cycles.programmeId, actor.programmeId), eq(cycles.code, cycleCode)));
    if (!cycle) throw new AppError('not found', `There is no cycle ${cycleCode}.`);
    if (!isLive(cycle.state)) throw new AppError('conflict', `Cycle ${cycleCode} is ${cycle.state}. Choose one that is open.`);
    const tree = await loadTree(context);
    const entry = tree.byCode.get(nodeCode);
    if (!entry) throw new AppError('not found', `There is no node ${nodeCode} on the map.`);
    const { number, code } = await takeNumber(context);
    await db.insert(defects).values({
      ...told,
      ...{ number, code, programmeId: actor.programmeId, cycleId: cycle.id, nodeId: entry.node.id, stepIndex: 0, steps: [] },
      teamId: getPath(tree, entry.node.id).reduce<TeamId | null>((team, { node }) => node.teamId ?? team, null),
      ...{ environment: cycle.environment, browser: '', foundBy: actor.personId, foundAt: now, changedAt: now },
    });
    await context.record({ subject: 'defect', subjectId: told.id, action: 'logged', details: { code, title: told.title } });
    await tellNewDefect(context, { code, title: told.title, severity: told.severity, at: entry.node.name });
    return { code };
  },
};

/** As whom the step was done: the step's persona, else the leg's. */
async function findPersona({ db }: Context, { turn, steps }: OwnAttempt, stepIndex: number): Promise<string> {
  const named = steps[stepIndex]?.as;
  if (named || !turn.personaId) return named ?? '';
  const [persona] = await db.select({ name: personas.name }).from(personas).where(eq(personas.id, turn.personaId));
  return persona?.name ?? '';
}

async function takeNumber({ db, actor }: Context): Promise<{ number: number; code: string }> {
  const [taken] = await db
    .update(programmes)
    .set({ nextDefect: sql`${programmes.nextDefect} + 1` })
    .where(eq(programmes.id, actor.programmeId))
    .returning({ next: programmes.nextDefect, prefix: programmes.defectPrefix });
  if (!taken) throw new AppError('not found', 'The programme is gone.');
  return { number: taken.next - 1, code: `${taken.prefix}-${taken.next - 1}` };
}

async function describeStepsSoFar(context: Context, own: OwnAttempt, upTo: number): Promise<string[]> {
  const [results, loaded] = await Promise.all([
    context.db.select().from(stepResults).where(eq(stepResults.attemptId, own.attempt.id)),
    loadRuns(context, [own.turn.runId]),
  ]);
  const kept = Object.entries(own.attempt.kept).map(([name, value]) => ({ name, value }));
  const source = createStepSource({
    attempt: own.attempt.seedId,
    day: toDay(own.attempt.startedAt.getTime(), context.actor.timeZone),
    calendar: await loadCalendar(context, own.turn.teamId),
    values: [...resolveNeeds(loaded.get(own.turn.runId)?.views ?? [], own.turn.index), ...kept],
  });
  const outcomes = new Map(results.map((result) => [result.stepIndex, result.outcome]));
  return describeSteps({ steps: own.steps, upTo, source, outcomeAt: (index) => outcomes.get(index) ?? null });
}

async function loadCalendar({ db }: Context, teamId: TeamId | null): Promise<WorkingCalendar> {
  const [team] = teamId
    ? await db.select({ workingDays: teams.workingDays, holidays: teams.holidays }).from(teams).where(eq(teams.id, teamId))
    : [];
  return team ?? { workingDays: [1, 2, 3, 4, 5], holidays: [] };
}

/** Whoever a defect is given to may do with it what those may who decide on all. */
export function requireHand(actor: Actor, { assigneeId }: { readonly assigneeId: PersonId | null }): void {
  if (assigneeId !== actor.personId) requireRight(actor, 'move defects');
}

function requireMove(actor: Actor, defect: Parameters<typeof mayMoveDefect>[1]): void {
  if (!mayMoveDefect({ person: actor.personId, decidesOnAll: false }, defect)) requireRight(actor, 'move defects');
}

/** Moves a defect. *Fixed* gives every turn that nothing else holds back to its tester as a retest. */
export const moveDefect: Operation<{ code: string; move: MoveDefect }, { done: true }> = {
  right: 'log defects',
  run: async (context, { code, move }) => {
    const { db, actor } = context;
    const [defect] = await db
      .select({
        ...{ id: defects.id, title: defects.title, status: defects.status, assigneeId: defects.assigneeId, foundById: defects.foundBy },
        hasTurns: sql<boolean>`exists (select from ${defectTurns} where ${defectTurns.defectId} = ${defects.id})`,
      })
      .from(defects)
      .where(and(eq(defects.programmeId, actor.programmeId), eq(defects.code, code)));
    if (!defect) throw new AppError('not found', `There is no defect ${code}.`);
    requireMove(actor, defect);
    await changeRuns(context, { scope: { defects: [defect.id] }, event: { kind: 'move defect', defect: defect.id, ...move } });
    // That it is fixed is told to those who try again; where nobody does, to whoever found it, who says whether it is gone.
    const isJudgedByFinder = isAtRetest(move.to) && !defect.hasTurns;
    const told = isJudgedByFinder
      ? [defect.foundById]
      : isAtRetest(move.to)
        ? []
        : [defect.assigneeId, defect.foundById].filter((id) => id !== null);
    const said = isJudgedByFinder ? 'is fixed: please look whether it is gone' : `is ${move.to}${move.reason ? `: ${move.reason}` : ''}`;
    await tellDefect(context, { code, title: defect.title }, told, said);
    return { done: true };
  },
};
