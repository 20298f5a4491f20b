import { eq } from 'drizzle-orm';
import type { DefectStatus } from '@kindred-baton/core/defects/defect';
import { isAtRetest } from '@kindred-baton/core/defects/defect';
import { describeSteps } from '@kindred-baton/core/defects/describe-steps';
import { createStepSource } from '@kindred-baton/core/turns/step-source';
import type { CycleId, PersonId } from '@kindred-baton/core/ids';
import { pushTo } from '@kindred-baton/core/push-to';
import { chunk } from '../chunk.ts';
import { defectTurns, defects } from '../schema/defects.ts';
import { history } from '../schema/history.ts';
import { programmes } from '../schema/programmes.ts';
import { testVersions } from '../schema/tests.ts';
import type { DefectPlan } from './fates.ts';
import type { DemoTools, LaidProgramme } from './lay-programme.ts';
import type { Failure } from './simulate-run.ts';

interface FoundDefects {
  readonly cycleId: CycleId;
  readonly failures: readonly Failure[];
  /** In the order of their numbers, the first of which is `from`. */
  readonly plans: readonly DefectPlan[];
  readonly from: number;
}

/** Lays the defects behind the simulated failures. Returns the number of the next. */
export async function layDefects(tools: DemoTools, laid: LaidProgramme, { cycleId, failures, plans, from }: FoundDefects): Promise<number> {
  const { db } = tools;
  const byKey = new Map<string, Failure[]>();
  for (const failure of failures) pushTo(byKey, failure.defect, failure);
  const versionOf = new Map((await db.select().from(testVersions)).map((version) => [version.id, version]));
  const found = plans.flatMap((plan) => {
    const all = (byKey.get(plan.key) ?? []).sort((a, b) => finishedMs(a) - finishedMs(b));
    return all[0] ? [{ plan, all, first: all[0] }] : [];
  });
  const rows = found.map(({ plan, first }, index) => {
    const number = from + index;
    const row = toRow(tools, plan, first, first.attempt.versionId ? versionOf.get(first.attempt.versionId) : undefined);
    const changedAt = listMoves({ ...row, number }, tools.now).at(-1)?.at ?? row.foundAt;
    return { ...row, ...{ programmeId: laid.programmeId, cycleId, number, code: `TQ-${number}`, changedAt } };
  });
  if (rows.length === 0) return from;
  for (const piece of chunk(rows)) await db.insert(defects).values(piece);
  const links = found.flatMap(({ plan, all }, index) =>
    [...new Map(all.map(({ turn, attempt }) => [turn.id, attempt.number]))].map(([turnId, number]) => ({
      ...{ defectId: rows[index]?.id ?? tools.id<'defect'>(), turnId },
      retestAfter: isAtRetest(plan.status) ? number : null,
    })),
  );
  for (const piece of chunk(links)) await db.insert(defectTurns).values(piece);
  await db
    .update(programmes)
    .set({ nextDefect: from + rows.length })
    .where(eq(programmes.id, laid.programmeId));
  const lead = laid.personOf.get('Lea Marsh') as PersonId;
  const told = rows.flatMap((row) => [
    { programmeId: laid.programmeId, subject: 'defect', subjectId: row.id, action: 'logged', personId: row.foundBy, at: row.foundAt },
    ...listMoves(row, tools.now).map(({ to, at }) => ({
      ...{ programmeId: laid.programmeId, subject: 'defect', subjectId: row.id, action: to, personId: lead, at },
    })),
  ]);
  for (const piece of chunk(told)) await db.insert(history).values(piece);
  return from + rows.length;
}

const HOUR_MS = 3_600_000;

/** How a defect came to where it stands, in hours after it was found; some that are closed were fixed twice. */
const WAYS: Readonly<Record<DefectStatus, readonly { readonly to: DefectStatus; readonly hours: number }[]>> = {
  new: [],
  accepted: [{ to: 'accepted', hours: 0.75 }],
  declined: [{ to: 'declined', hours: 3 }],
  fixed: [
    { to: 'accepted', hours: 0.75 },
    { to: 'fixed', hours: 5 },
  ],
  closed: [
    { to: 'accepted', hours: 0.75 },
    { to: 'fixed', hours: 5 },
    { to: 'closed', hours: 22 },
  ],
};
const SECOND_FIX: (typeof WAYS)['closed'] = [
  { to: 'accepted', hours: 7 },
  { to: 'fixed', hours: 20 },
];

/** The moves of a defect, the last of them before now. */
function listMoves(
  { status, number, foundAt }: { readonly status: DefectStatus; readonly number: number; readonly foundAt: Date },
  now: Date,
) {
  const way = WAYS[status];
  const last = way.at(-1);
  const whole = status === 'closed' && number % 4 === 0 && last ? [...way.slice(0, -1), ...SECOND_FIX, last] : way;
  const shrink = Math.min(1, (now.getTime() - foundAt.getTime()) / ((last?.hours ?? 1) * HOUR_MS) / 1.01);
  return whole.map(({ to, hours }) => ({ to, at: new Date(foundAt.getTime() + hours * shrink * HOUR_MS) }));
}

const finishedMs = ({ attempt }: Failure) => attempt.finishedAt?.getTime() ?? 0;

function toRow(
  { id }: DemoTools,
  plan: DefectPlan,
  { turn, attempt, stepIndex, carried }: Failure,
  version: typeof testVersions.$inferSelect | undefined,
) {
  const { key: _, ...fields } = plan;
  const foundAt = attempt.finishedAt ?? attempt.startedAt;
  const source = createStepSource({
    attempt: attempt.id,
    day: attempt.startedAt.toISOString().slice(0, 10),
    calendar: { workingDays: [1, 2, 3, 4, 5], holidays: [] },
    values: [...carried, ...turn.needs.flatMap(({ name, source: from }) => (from.kind === 'value' ? [{ name, value: from.value }] : []))],
  });
  const steps = describeSteps({
    steps: version?.steps ?? [],
    upTo: stepIndex,
    source,
    outcomeAt: (index) => (index === stepIndex ? 'failed' : 'passed'),
  });
  return {
    ...{ ...fields, id: id<'defect'>(), attemptId: attempt.id, stepIndex, steps, teamId: turn.teamId ?? null },
    ...{ environment: attempt.environment, browser: attempt.browser ?? '', foundBy: attempt.personId },
    foundAt,
  };
}
