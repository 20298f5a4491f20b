import { and, eq, inArray, isNotNull } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { ChangeDefect, JoinDefect, LikelySameQuery, LikelySameView } from '@kindred-baton/contracts/defects/defect';
import { findLikelySame } from '@kindred-baton/core/defects/find-likely-same';
import type { DefectWordId } from '@kindred-baton/core/ids';
import { printStep } from '@kindred-baton/core/tests/print-step';
import { tellDefect } from '../mails/tell.ts';
import type { Context, Operation, Query, ReadContext } from '../operation.ts';
import { requireOwn } from '../programmes/require-own.ts';
import type { DefectRow } from '../schema/defects.ts';
import { defectTurns, defectWords, defects } from '../schema/defects.ts';
import { testVersions, tests } from '../schema/tests.ts';
import { attempts, turns } from '../schema/turns.ts';
import { changeRuns } from '../runs/change-runs.ts';
import { lockSeenAttempt } from '../runs/own-attempt.ts';
import { requireHand } from './change-defects.ts';
import { toDifference } from '../to-difference.ts';

/** Changes what a defect is: its title, kind, severity, priority, team, assignee, due day, links. */
export const changeDefect: Operation<{ code: string; change: ChangeDefect }, { done: true }> = {
  right: 'log defects',
  run: async (context, { code, change }) => {
    const defect = await lockDefect(context, code);
    requireHand(context.actor, defect);
    await requireOwn(context, { teamId: change.teamId, ownerId: change.assigneeId });
    if (change.links) await requireKnown(context, code, change.links);
    if (Object.keys(change).length > 0)
      await context.db
        .update(defects)
        .set({ ...change, changedAt: context.now })
        .where(eq(defects.id, defect.id));
    await context.record({
      subject: 'defect',
      subjectId: defect.id,
      action: `changed ${Object.keys(change).map(toWord).join(', ')}`,
      details: toDifference(defect, change),
    });
    if (change.assigneeId && change.assigneeId !== defect.assigneeId)
      await tellDefect(context, defect, [change.assigneeId], 'is yours to fix');
    return { done: true };
  },
};

const LABELS: Readonly<Record<string, string>> = { teamId: 'team', assigneeId: 'assignee', dueOn: 'due day' };
const toWord = (name: string) => LABELS[name] ?? name;

async function lockDefect(context: Context, code: string): Promise<DefectRow> {
  const { id } = await findDefect(context, code);
  const [defect] = await context.db.select().from(defects).where(eq(defects.id, id)).for('update');
  return defect ?? findDefect(context, code);
}

async function findDefect({ db, actor }: Context, code: string): Promise<DefectRow> {
  const [defect] = await db
    .select()
    .from(defects)
    .where(and(eq(defects.programmeId, actor.programmeId), eq(defects.code, code)));
  if (!defect) throw new AppError('not found', `There is no defect ${code}.`);
  return defect;
}

async function requireKnown({ db, actor }: Context, code: string, links: NonNullable<ChangeDefect['links']>): Promise<void> {
  const codes = links.filter(({ kind }) => kind !== 'tracked at').map(({ to }) => to);
  if (codes.includes(code)) throw new AppError('invalid', `${code} cannot be linked to itself.`);
  if (codes.length === 0) return;
  const rows = await db
    .select({ code: defects.code })
    .from(defects)
    .where(and(eq(defects.programmeId, actor.programmeId), inArray(defects.code, codes)));
  const missing = codes.filter((wanted) => !rows.some((row) => row.code === wanted));
  if (missing.length > 0) throw new AppError('invalid', `There is no defect ${missing.join(', ')}.`);
}

/** Says something about a defect. The browser mints the id: said twice, it is kept once. */
export const sayDefect: Operation<{ code: string; id: string; text: string }, { done: true }> = {
  right: 'log defects',
  run: async (context, { code, id, text }) => {
    const { db, actor, now } = context;
    const defect = await lockDefect(context, code);
    await db
      .insert(defectWords)
      .values({ id: id as DefectWordId, defectId: defect.id, personId: actor.personId, text, at: now })
      .onConflictDoNothing();
    await context.record({ subject: 'defect', subjectId: defect.id, action: 'said', details: { text } });
    return { done: true };
  },
};

/** Defects that the failing step is likely an instance of: words, step and values compared. Those that are closed or declined too. */
export const getLikelySame: Query<LikelySameQuery, LikelySameView> = {
  right: 'log defects',
  read: async (context, { attemptId, stepIndex, title, seen }) => {
    const [own, known] = await Promise.all([loadStep(context, attemptId, stepIndex), loadKnown(context)]);
    const likely = findLikelySame({ ...own, stepIndex, title, seen, expected: '' }, known);
    const byCode = new Map(known.map((defect) => [defect.code, defect]));
    return {
      likely: likely.flatMap(({ code, likeness, why }) => {
        const defect = byCode.get(code);
        return defect ? [{ code, title: defect.title, status: defect.status, likeness, why: [...why], waiting: defect.turns }] : [];
      }),
    };
  },
};

async function loadStep(
  { db, actor }: ReadContext,
  attemptId: LikelySameQuery['attemptId'],
  stepIndex: number,
): Promise<{ test: string | null; step: string }> {
  const [found] = await db
    .select({ test: tests.code, steps: testVersions.steps, bare: turns.bare })
    .from(attempts)
    .innerJoin(turns, and(eq(turns.id, attempts.turnId), eq(turns.programmeId, actor.programmeId)))
    .leftJoin(testVersions, eq(testVersions.id, attempts.versionId))
    .leftJoin(tests, eq(tests.id, turns.testId))
    .where(eq(attempts.id, attemptId));
  if (!found) throw new AppError('not found', 'There is no such attempt in this programme.');
  const step = (found.steps ?? found.bare?.steps ?? [])[stepIndex];
  return { test: found.test, step: step ? printStep(step) : '' };
}

async function loadKnown({ db, actor }: ReadContext) {
  const rows = await db
    .select({ defect: defects, test: tests.code, turn: defectTurns.turnId })
    .from(defects)
    .leftJoin(attempts, and(eq(attempts.id, defects.attemptId), isNotNull(defects.attemptId)))
    .leftJoin(turns, eq(turns.id, attempts.turnId))
    .leftJoin(tests, eq(tests.id, turns.testId))
    .leftJoin(defectTurns, eq(defectTurns.defectId, defects.id))
    .where(eq(defects.programmeId, actor.programmeId));
  const known = new Map<string, ReturnType<typeof toKnown>>();
  for (const { defect, test } of rows) {
    const before = known.get(defect.code);
    if (before) before.turns += 1;
    else known.set(defect.code, toKnown(defect, test));
  }
  return [...known.values()];
}

function toKnown(defect: DefectRow, test: string | null) {
  const { code, title, stepIndex, expected, seen, status, steps } = defect;
  return { code, title, stepIndex, expected, seen, status, test, step: steps.at(-1) ?? '', turns: 1 };
}

/** Joins an own failing attempt to a defect that is known, instead of logging it twice: the turn waits for the same fix. */
export const joinDefect: Operation<JoinDefect, { code: string }> = {
  right: 'log defects',
  run: async (context, { code, attemptId, stepIndex }) => {
    const { turn, steps } = await lockSeenAttempt(context, attemptId);
    if (!steps[stepIndex]) throw new AppError('invalid', `This test has no step ${stepIndex + 1}.`);
    const defect = await findDefect(context, code);
    const event = { kind: 'join defect' as const, defect: defect.id, turn: turn.id, step: stepIndex + 1 };
    await changeRuns(context, { scope: { turns: [turn.id], defects: [defect.id] }, event });
    return { code };
  },
};
