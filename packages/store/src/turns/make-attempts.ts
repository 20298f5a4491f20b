import { and, count, eq, inArray, isNull, max, notInArray, sql } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { Finished, RecordStep } from '@kindred-baton/contracts/turns/turn';
import { findMissing } from '@kindred-baton/core/cycles/rules';
import type { AttemptId, DefectId, PersonId, TurnId } from '@kindred-baton/core/ids';
import { getAttemptOutcome } from '@kindred-baton/core/outcomes';
import type { Step } from '@kindred-baton/core/tests/step';
import { checkValue } from '@kindred-baton/core/values/check-value';
import type { Field } from '@kindred-baton/core/values/field';
import { toNameKey } from '@kindred-baton/core/values/field';
import type { Actor } from '../actor.ts';
import { settleDefects } from '../runs/settle-defects.ts';
import type { Context, Operation } from '../operation.ts';
import { tellReady } from '../mails/tell.ts';
import { cycleEnvironments, cycles } from '../schema/cycles.ts';
import { defectTurns, defects } from '../schema/defects.ts';
import { people } from '../schema/people.ts';
import { environments } from '../schema/programmes.ts';
import { testVersions, tests } from '../schema/tests.ts';
import type { AttemptRow, TurnRow } from '../schema/turns.ts';
import { attempts, evidence, stepResults, turns } from '../schema/turns.ts';
import { findIsInLane, findLastPerson, findRefusal } from './find-refusal.ts';
import { lockRuns, reassessRuns } from '../runs/reassess-runs.ts';

/** Begins an attempt. The browser mints its id: sent twice, it is begun once. */
export const startAttempt: Operation<{ turnId: TurnId; id: AttemptId; browser: string }, { number: number }> = {
  right: 'make attempts',
  run: async (context, { turnId, id, browser }) => {
    const { db, actor, now } = context;
    const { turn, cycle, environment } = await loadTurn(context, turnId);
    await lockRuns(context, [turn.runId]);
    const [isInLane, lastPerson] = await Promise.all([findIsInLane(context, turn), findLastPerson(context, turnId)]);
    const [same] = await db.select().from(attempts).where(eq(attempts.id, id));
    if (same) return { number: same.number };
    await requireNobodyElse(context, turnId);
    const open = await listDefects(context, turnId);
    const refusal = findRefusal({ turn, cycle, actor, defects: open, isInLane, lastPerson });
    if (refusal !== null) throw new AppError('conflict', refusal);
    const [last] = await db
      .select({ number: max(attempts.number) })
      .from(attempts)
      .where(eq(attempts.turnId, turnId));
    const number = (last?.number ?? 0) + 1;
    await db
      .insert(attempts)
      .values({ ...{ id, turnId, number, browser, environment }, personId: actor.personId, versionId: turn.versionId, startedAt: now });
    await reassessRuns(context, [turn.runId]);
    await context.record({ subject: 'turn', subjectId: turnId, action: 'attempt begun', details: { attempt: id, number } });
    context.announce('turns');
    return { number };
  },
};

async function loadTurn({ db, actor }: Context, turnId: TurnId) {
  const [found] = await db
    .select({ turn: turns, cycle: cycles, environment: environments.name })
    .from(turns)
    .innerJoin(cycles, eq(cycles.id, turns.cycleId))
    .leftJoin(tests, eq(tests.id, turns.testId))
    .leftJoin(cycleEnvironments, and(eq(cycleEnvironments.cycleId, cycles.id), eq(cycleEnvironments.applicationId, tests.applicationId)))
    .innerJoin(environments, eq(environments.id, sql`coalesce(${cycleEnvironments.environmentId}, ${cycles.environmentId})`))
    .where(and(eq(turns.id, turnId), eq(turns.programmeId, actor.programmeId)));
  if (!found) throw new AppError('not found', 'There is no such turn in this programme.');
  return found;
}

async function requireNobodyElse({ db }: Context, turnId: TurnId): Promise<void> {
  const [other] = await db
    .select({ name: people.name })
    .from(attempts)
    .innerJoin(people, eq(people.id, attempts.personId))
    .where(and(eq(attempts.turnId, turnId), isNull(attempts.finishedAt)));
  if (other) throw new AppError('conflict', `${other.name} has an attempt at this turn under way.`);
}

function listDefects({ db }: Context, turnId: TurnId) {
  return db
    .select({ id: defects.id, code: defects.code, status: defects.status })
    .from(defectTurns)
    .innerJoin(defects, eq(defects.id, defectTurns.defectId))
    .where(eq(defectTurns.turnId, turnId));
}

export interface OwnAttempt {
  readonly attempt: AttemptRow;
  readonly turn: TurnRow;
  /** Of the version, or of the bare turn. */
  readonly steps: readonly Step[];
  readonly gives: readonly Field[];
}

/** The actor's own attempt, locked. Somebody else's is forbidden, whatever the role. */
export async function getOwnAttempt({ db, actor }: Context, id: AttemptId): Promise<OwnAttempt> {
  const [found] = await db
    .select({ attempt: attempts, turn: turns, version: testVersions })
    .from(attempts)
    .innerJoin(turns, eq(turns.id, attempts.turnId))
    .leftJoin(testVersions, eq(testVersions.id, attempts.versionId))
    .where(and(eq(attempts.id, id), eq(turns.programmeId, actor.programmeId)))
    .for('update', { of: attempts });
  if (!found) throw new AppError('not found', 'There is no such attempt in this programme.');
  requireOwnAttempt(actor, found.attempt.personId);
  const { attempt, turn, version } = found;
  return { attempt, turn, steps: version?.steps ?? turn.bare?.steps ?? [], gives: version?.gives ?? turn.bare?.gives ?? [] };
}

/** Records what was seen at one step, and what it keeps. The same word sent twice is stored once; a later one replaces it. */
export const recordStep: Operation<{ attemptId: AttemptId; stepIndex: number; word: RecordStep }, { done: true }> = {
  right: 'make attempts',
  run: async (context, { attemptId, stepIndex, word }) => {
    const { attempt, step, steps, gives, before } = await getOwnStep(context, attemptId, stepIndex);
    if (!step) throw new AppError('invalid', `This test has ${steps} steps; there is no step ${stepIndex + 1}.`);
    if (before === word.wordId) return { done: true };
    if (attempt.finishedAt) throw new AppError('conflict', 'This attempt is finished; begin another to change what was seen.');
    if (step.keepAs !== undefined) await keepValue(context, attempt, gives, { name: step.keepAs, word });
    const result = { outcome: word.outcome, note: word.note, recordedAt: new Date(word.at), wordId: word.wordId };
    await context.db
      .insert(stepResults)
      .values({ attemptId, stepIndex, ...result })
      .onConflictDoUpdate({ target: [stepResults.attemptId, stepResults.stepIndex], set: result });
    await context.record({
      subject: 'attempt',
      subjectId: attemptId,
      action: 'step recorded',
      details: { step: stepIndex + 1, outcome: word.outcome },
    });
    return { done: true };
  },
};

/**
 * One step of the actor's own attempt, the attempt locked, with the word that it has already. The busiest question of a round: one query,
 * and of a long test only the step that is asked for.
 */
async function getOwnStep({ db, actor }: Context, id: AttemptId, stepIndex: number) {
  const steps = sql`coalesce(${testVersions.steps}, ${turns.bare} -> 'steps')`;
  const [found] = await db
    .select({
      attempt: { id: attempts.id, personId: attempts.personId, finishedAt: attempts.finishedAt },
      step: sql<Step | null>`${steps} -> ${stepIndex}::int`,
      steps: sql<number>`jsonb_array_length(${steps})`,
      gives: sql<Field[]>`coalesce(${testVersions.gives}, ${turns.bare} -> 'gives')`,
      before: stepResults.wordId,
    })
    .from(attempts)
    .innerJoin(turns, and(eq(turns.id, attempts.turnId), eq(turns.programmeId, actor.programmeId)))
    .leftJoin(testVersions, eq(testVersions.id, attempts.versionId))
    .leftJoin(stepResults, and(eq(stepResults.attemptId, attempts.id), eq(stepResults.stepIndex, stepIndex)))
    .where(eq(attempts.id, id))
    .for('update', { of: attempts });
  if (!found) throw new AppError('not found', 'There is no such attempt in this programme.');
  requireOwnAttempt(actor, found.attempt.personId);
  return found;
}

function requireOwnAttempt(actor: Actor, personId: PersonId): void {
  if (personId !== actor.personId) throw new AppError('forbidden', 'This attempt is somebody else’s.');
}

interface KeptWord {
  readonly name: string;
  readonly word: RecordStep;
}

async function keepValue(
  { db }: Context,
  attempt: Pick<AttemptRow, 'id'>,
  gives: readonly Field[],
  { name, word }: KeptWord,
): Promise<void> {
  const field = gives.find((candidate) => toNameKey(candidate.name) === toNameKey(name)) ?? { name, type: 'text' as const };
  const typed = word.kept?.trim() ?? '';
  if (word.outcome === 'passed' || typed !== '') {
    const check = checkValue(field, typed);
    if (!check.ok) throw new AppError('invalid', check.message, { details: { problems: [{ path: 'kept', message: check.message }] } });
    await db
      .update(attempts)
      .set({ kept: sql`${attempts.kept} || ${JSON.stringify({ [field.name]: check.value })}::jsonb` })
      .where(and(eq(attempts.id, attempt.id), isNull(attempts.finishedAt)));
  } else {
    await db
      .update(attempts)
      .set({ kept: sql`${attempts.kept} - ${field.name}::text` })
      .where(and(eq(attempts.id, attempt.id), isNull(attempts.finishedAt)));
  }
}

/** Finishes an attempt: its outcome follows from its steps, the baton passes on, and retests settle their defects. */
export const finishAttempt: Operation<AttemptId, Finished> = {
  right: 'make attempts',
  run: async (context, attemptId) => {
    const { db, now } = context;
    const own = await getOwnAttempt(context, attemptId);
    const { attempt, turn } = own;
    if (attempt.outcome) return { outcome: attempt.outcome, next: [] };
    await requireOpen(context, turn);
    await lockRuns(context, [turn.runId]);
    const outcome = await decideOutcome(context, own);
    await db
      .update(attempts)
      .set({ finishedAt: now, outcome })
      .where(and(eq(attempts.id, attemptId), isNull(attempts.finishedAt)));
    await db.update(turns).set({ isRetestDue: false, doneAt: now, outcome }).where(eq(turns.id, turn.id));
    const ready = await reassessRuns(context, [turn.runId]);
    await context.record({
      subject: 'turn',
      subjectId: turn.id,
      action: `attempt ${outcome}`,
      details: { attempt: attemptId, kept: attempt.kept },
    });
    const known = await listDefects(context, turn.id);
    await settleDefects(
      context,
      known.map((defect): DefectId => defect.id),
    );
    await tellReady(context, ready);
    context.announce('turns');
    return { outcome, next: await nameNext(context, ready) };
  },
};

/** A cycle that was closed while the guide was open keeps the attempt as it is: nothing typed is lost, nothing is counted. */
async function requireOpen({ db }: Context, turn: TurnRow): Promise<void> {
  const [cycle] = await db.select({ code: cycles.code, state: cycles.state }).from(cycles).where(eq(cycles.id, turn.cycleId));
  if (cycle?.state === 'closed')
    throw new AppError(
      'conflict',
      `Cycle ${cycle.code} was closed meanwhile. What you recorded is kept with this attempt, but it no longer counts. Tell the lead.`,
    );
}

async function decideOutcome(context: Context, own: OwnAttempt) {
  const { db } = context;
  const results = await db.select().from(stepResults).where(eq(stepResults.attemptId, own.attempt.id));
  const at = new Map(results.map((result) => [result.stepIndex, result]));
  const steps = own.steps.map((step, index) => ({ optional: step.optional === true, outcome: at.get(index)?.outcome ?? null }));
  const outcome = getAttemptOutcome(steps);
  if (outcome === 'unfinished') {
    const missing = steps.flatMap((step, index) => (!step.optional && step.outcome === null ? [index + 1] : []));
    throw new AppError('invalid', `Say first how ${missing.length === 1 ? 'step' : 'steps'} ${missing.join(', ') || '1'} went.`);
  }
  await requireByRules(context, own, at);
  return outcome;
}

/** What the cycle's rules ask for with an attempt. */
async function requireByRules(
  { db }: Context,
  { attempt, turn, steps }: OwnAttempt,
  at: ReadonlyMap<number, typeof stepResults.$inferSelect>,
): Promise<void> {
  const [[cycle], files, known] = await Promise.all([
    db.select({ rules: cycles.rules }).from(cycles).where(eq(cycles.id, turn.cycleId)),
    db
      .select({ stepIndex: evidence.stepIndex, files: count() })
      .from(evidence)
      .where(eq(evidence.attemptId, attempt.id))
      .groupBy(evidence.stepIndex),
    db
      .select({ defects: count() })
      .from(defectTurns)
      .innerJoin(defects, eq(defects.id, defectTurns.defectId))
      .where(and(eq(defectTurns.turnId, turn.id), notInArray(defects.status, ['closed', 'declined']))),
  ]);
  if (!cycle) return;
  const pictures = new Map(files.map((row) => [row.stepIndex, row.files]));
  const missing = findMissing(cycle.rules, {
    steps: steps.map((_, index) => ({
      outcome: at.get(index)?.outcome ?? null,
      note: at.get(index)?.note ?? '',
      pictures: pictures.get(index) ?? 0,
    })),
    defects: known[0]?.defects ?? 0,
  });
  if (missing.length > 0) throw new AppError('invalid', missing.join(' '));
}

async function nameNext({ db }: Context, ready: readonly TurnRow[]): Promise<Finished['next']> {
  const ids = ready.flatMap((turn): PersonId[] => (turn.assigneeId ? [turn.assigneeId] : []));
  const rows = ids.length > 0 ? await db.select({ id: people.id, name: people.name }).from(people).where(inArray(people.id, ids)) : [];
  const nameOf = new Map(rows.map((row) => [row.id, row.name]));
  return ready.map((turn) => ({ title: turn.title, person: (turn.assigneeId && nameOf.get(turn.assigneeId)) ?? null }));
}
