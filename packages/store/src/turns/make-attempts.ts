import { and, eq, inArray, isNull, lte, sql } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { Finished, RecordStep } from '@kindred-baton/contracts/turns/turn';
import type { AttemptId, PersonId, TurnId } from '@kindred-baton/core/ids';
import type { Step } from '@kindred-baton/core/tests/step';
import type { ChangedRuns } from '../runs/change-runs.ts';
import { decideStep, LATER_IS_RECORDED } from '@kindred-baton/core/turns/decide/record-step';
import type { RunsState } from '@kindred-baton/core/turns/decide/runs-state';
import { findTurn } from '@kindred-baton/core/turns/decide/runs-state';
import type { Field } from '@kindred-baton/core/values/field';
import type { Context, Operation } from '../operation.ts';
import { changeRuns, toError } from '../runs/change-runs.ts';
import { lockScope } from '../runs/lock-runs.ts';
import { requireLease } from '../runs/require-lease.ts';
import { cycleEnvironments, cycles, runs } from '../schema/cycles.ts';
import { people } from '../schema/people.ts';
import { environments } from '../schema/programmes.ts';
import { testVersions, tests } from '../schema/tests.ts';
import { attempts, leases, stepResults, turns } from '../schema/turns.ts';

export interface StartAttempt {
  readonly turnId: TurnId;
  /** The browser mints it: sent twice, the attempt is begun once. */
  readonly id: AttemptId;
  readonly browser: string;
  readonly isFromSheet?: boolean;
  /** Goes on from where that one stopped: its steps up to there, with their pictures, are this one's too. */
  readonly continues?: AttemptId | null;
  /** Refused where the turn is with somebody else by now. */
  readonly mustBeWith?: PersonId;
}

export const startAttempt: Operation<StartAttempt, { number: number }> = {
  right: 'make attempts',
  run: async (context, { turnId, id, browser, isFromSheet = false, continues = null, mustBeWith }) => {
    const environment = await findEnvironment(context, turnId);
    const begin = { kind: 'begin' as const, turn: turnId, attempt: id, environment, browser, isFromSheet, continues };
    const event = (state: RunsState) => {
      if (mustBeWith && findTurn(state, turnId)?.turn.assigneeId !== mustBeWith)
        throw new AppError('conflict', 'This turn is with somebody else by now.');
      return begin;
    };
    const { before, after } = await changeRuns(context, { scope: { turns: [turnId] }, event });
    const turn = findTurn(after, turnId)?.turn;
    if (continues !== null && findTurn(before, turnId)?.turn.open?.id !== id) await copySteps(context, { from: continues, to: id });
    return { number: turn?.open?.number ?? turn?.latest?.number ?? 1 };
  },
};

/** What was done before somebody else goes on; each step stays the word of whoever did it. */
async function copySteps({ db, actor }: Context, { from, to }: { readonly from: AttemptId; readonly to: AttemptId }): Promise<void> {
  const stop = sql`coalesce((select min(step_index) from step_results where attempt_id = ${from} and outcome not in ('passed', 'skipped')), 2147483647)`;
  await db.execute(sql`
    insert into step_results (programme_id, attempt_id, step_index, outcome, note, recorded_at, word_id, by_id, runner_id, expected, actual, unlooked, took_ms)
    select programme_id, ${to}, step_index, outcome, note, recorded_at, gen_random_uuid(), by_id, runner_id, expected, actual, unlooked, took_ms
    from step_results where attempt_id = ${from} and outcome is not null and step_index < ${stop}
    on conflict do nothing`);
  await db.execute(sql`
    insert into captures (programme_id, attempt_id, step_index, content)
    select programme_id, ${to}, step_index, content from captures where attempt_id = ${from} and step_index < ${stop}
    on conflict do nothing`);
  await db.execute(sql`
    insert into evidence (programme_id, id, attempt_id, step_index, name, media_type, size, content, added_by, added_at)
    select programme_id, gen_random_uuid(), ${to}, step_index, name, media_type, size, content, added_by, added_at
    from evidence where attempt_id = ${from} and programme_id = ${actor.programmeId} and step_index < ${stop}`);
}

/** The environment in which the cycle tests the turn's application. */
async function findEnvironment({ db, actor }: Context, turnId: TurnId): Promise<string> {
  const [found] = await db
    .select({ name: environments.name })
    .from(turns)
    .innerJoin(cycles, eq(cycles.id, turns.cycleId))
    .leftJoin(tests, eq(tests.id, turns.testId))
    .leftJoin(cycleEnvironments, and(eq(cycleEnvironments.cycleId, cycles.id), eq(cycleEnvironments.applicationId, tests.applicationId)))
    .innerJoin(environments, eq(environments.id, sql`coalesce(${cycleEnvironments.environmentId}, ${cycles.environmentId})`))
    .where(and(eq(turns.id, turnId), eq(turns.programmeId, actor.programmeId)));
  if (!found) throw new AppError('not found', 'There is no such turn in this programme.');
  return found.name;
}

/** Records what was seen at one step, and what it keeps. The same entry sent twice is stored once; a later one replaces it. */
export const recordStep: Operation<{ attemptId: AttemptId; stepIndex: number; word: RecordStep }, { done: true }> = {
  right: 'make attempts',
  run: async (context, { attemptId, stepIndex, word }) => {
    const sheet = await lockStep(context, attemptId, stepIndex);
    await requireLease(context, attemptId, new Date(word.at));
    const decision = decideStep(sheet, context.actor.personId, stepIndex, { ...word, id: word.wordId, atMs: Date.parse(word.at) });
    if (!decision.ok) {
      const { code, message } = decision.refusal;
      throw decision.field
        ? new AppError(code, message, { details: { problems: [{ path: decision.field, message }] } })
        : toError(decision.refusal);
    }
    if (!decision.isNew) return { done: true };
    if (decision.kept) await keepValue(context, attemptId, decision.kept);
    const result = {
      ...{ outcome: word.outcome, note: word.note, recordedAt: new Date(word.at), wordId: word.wordId },
      ...{ byId: context.actor.personId, runnerId: context.actor.runnerId ?? null },
      ...{ expected: '', actual: '', unlooked: '', tookMs: null, ...word.seen },
    };
    // Of two at the same moment the second sees here what the first wrote.
    const written = await context.db
      .insert(stepResults)
      .values({ attemptId, stepIndex, ...result })
      .onConflictDoUpdate({
        target: [stepResults.attemptId, stepResults.stepIndex],
        set: result,
        setWhere: lte(stepResults.recordedAt, result.recordedAt),
      })
      .returning({ stepIndex: stepResults.stepIndex });
    if (written.length === 0) throw toError(LATER_IS_RECORDED);
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
 * One step of an attempt, its run locked as by every change, with the entry that it has already. The busiest question of a round: one query, and
 * of a long test only the step that is asked for.
 */
async function lockStep({ db, actor }: Context, id: AttemptId, stepIndex: number) {
  const steps = sql`coalesce(${testVersions.steps}, ${turns.bare} -> 'steps')`;
  const [found] = await db
    .select({
      personId: attempts.personId,
      // What a runner saw before its attempt was broken off may come after.
      isFinished: sql<boolean>`${attempts.finishedAt} is not null and not (${attempts.isAbandoned} and ${actor.runnerId !== undefined})`,
      step: sql<Step | null>`${steps} -> ${stepIndex}::int`,
      steps: sql<number>`jsonb_array_length(${steps})`,
      gives: sql<Field[]>`coalesce(${testVersions.gives}, ${turns.bare} -> 'gives')`,
      entryId: stepResults.wordId,
      entryAt: stepResults.recordedAt,
    })
    .from(runs)
    .innerJoin(turns, and(eq(turns.runId, runs.id), eq(turns.programmeId, actor.programmeId)))
    .innerJoin(attempts, eq(attempts.turnId, turns.id))
    .leftJoin(testVersions, eq(testVersions.id, attempts.versionId))
    .leftJoin(stepResults, and(eq(stepResults.attemptId, attempts.id), eq(stepResults.stepIndex, stepIndex)))
    .where(eq(attempts.id, id))
    .for('update', { of: [runs, attempts] });
  if (!found) throw new AppError('not found', 'There is no such attempt in this programme.');
  return { ...found, entryAtMs: found.entryAt?.getTime() ?? null };
}

async function keepValue({ db }: Context, id: AttemptId, { name, value }: { name: string; value: string | null }): Promise<void> {
  const kept =
    value === null ? sql`${attempts.kept} - ${name}::text` : sql`${attempts.kept} || ${JSON.stringify({ [name]: value })}::jsonb`;
  await db
    .update(attempts)
    .set({ kept })
    .where(and(eq(attempts.id, id), isNull(attempts.finishedAt)));
}

/** Finishes an attempt: its outcome follows from its steps, the baton passes on, and retests settle their defects. Sent twice, it is done once. */
export const finishAttempt: Operation<AttemptId, Finished> = {
  right: 'make attempts',
  run: async (context, attemptId) => {
    const { db, actor } = context;
    const [known] = await db
      .select({ turnId: turns.id, personId: attempts.personId, outcome: attempts.outcome })
      .from(attempts)
      .innerJoin(turns, and(eq(turns.id, attempts.turnId), eq(turns.programmeId, actor.programmeId)))
      .where(eq(attempts.id, attemptId));
    if (!known) throw new AppError('not found', 'There is no such attempt in this programme.');
    if (known.outcome && known.personId === actor.personId) return { outcome: known.outcome, next: [] };
    await lockScope(context, { turns: [known.turnId] });
    await requireLease(context, attemptId);
    const changed = await changeRuns(context, {
      scope: { turns: [known.turnId] },
      sheetsOf: [attemptId],
      event: { kind: 'finish', attempt: attemptId },
    });
    await db.delete(leases).where(eq(leases.attemptId, attemptId));
    const outcome = findTurn(changed.after, known.turnId)?.turn.latest?.outcome;
    if (!outcome) throw new AppError('broken', 'The attempt was not finished.');
    return { outcome, next: await nameNext(context, changed) };
  },
};

/** The turns that have the baton now. */
async function nameNext({ db }: Context, { after, effects }: ChangedRuns): Promise<Finished['next']> {
  const ready = effects
    .flatMap((effect) => (effect.kind === 'tell ready' ? effect.turns : []))
    .flatMap((id) => findTurn(after, id)?.turn ?? []);
  const ids = ready.flatMap((turn): PersonId[] => (turn.assigneeId ? [turn.assigneeId] : []));
  const rows = ids.length > 0 ? await db.select({ id: people.id, name: people.name }).from(people).where(inArray(people.id, ids)) : [];
  const nameOf = new Map(rows.map((row) => [row.id, row.name]));
  return ready.map((turn) => ({ title: turn.title, person: (turn.assigneeId && nameOf.get(turn.assigneeId)) ?? null }));
}
