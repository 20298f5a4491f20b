import { eq } from 'drizzle-orm';
import { isAtRetest } from '@kindred-baton/core/defects/defect';
import { describeSteps } from '@kindred-baton/core/defects/describe-steps';
import { createStepSource } from '@kindred-baton/core/turns/step-source';
import type { CycleId, PersonId } from '@kindred-baton/core/ids';
import { pushTo } from '@kindred-baton/core/push-to';
import { defectTurns, defects } from '../schema/defects.ts';
import { history } from '../schema/history.ts';
import { programmes } from '../schema/programmes.ts';
import { testVersions } from '../schema/tests.ts';
import type { DefectPlan } from './fates.ts';
import { DEFECT_PLANS } from './fates.ts';
import type { DemoTools, LaidProgramme } from './lay-programme.ts';
import type { Failure } from './simulate-run.ts';

const FIRST_NUMBER = 202;

/** Lays the defects behind the simulated failures, in the order in which they were found. */
export async function layDefects(tools: DemoTools, laid: LaidProgramme, cycleId: CycleId, failures: readonly Failure[]): Promise<void> {
  const { db } = tools;
  const byKey = new Map<string, Failure[]>();
  for (const failure of failures) pushTo(byKey, failure.defect, failure);
  const versionOf = new Map((await db.select().from(testVersions)).map((version) => [version.id, version]));
  const found = DEFECT_PLANS.flatMap((plan) => {
    const all = (byKey.get(plan.key) ?? []).sort((a, b) => finishedMs(a) - finishedMs(b));
    return all[0] ? [{ plan, all, first: all[0] }] : [];
  });
  const rows = found.map(({ plan, first }, index) => ({
    ...toRow(tools, plan, first, first.attempt.versionId ? versionOf.get(first.attempt.versionId) : undefined),
    ...{ programmeId: laid.programmeId, cycleId, number: FIRST_NUMBER + index, code: `TQ-${FIRST_NUMBER + index}` },
  }));
  if (rows.length === 0) return;
  await db.insert(defects).values(rows);
  await db.insert(defectTurns).values(
    found.flatMap(({ plan, all }, index) =>
      [...new Map(all.map(({ turn, attempt }) => [turn.id, attempt.number]))].map(([turnId, number]) => ({
        ...{ defectId: rows[index]?.id ?? tools.id<'defect'>(), turnId },
        retestAfter: isAtRetest(plan.status) ? number : null,
      })),
    ),
  );
  await db
    .update(programmes)
    .set({ nextDefect: FIRST_NUMBER + rows.length })
    .where(eq(programmes.id, laid.programmeId));
  const lead = laid.personOf.get('Lea Marsh') as PersonId;
  await db.insert(history).values(
    rows.flatMap((row) => [
      { programmeId: laid.programmeId, subject: 'defect', subjectId: row.id, action: 'logged', personId: row.foundBy, at: row.foundAt },
      ...(row.status === 'new'
        ? []
        : [
            {
              programmeId: laid.programmeId,
              subject: 'defect',
              subjectId: row.id,
              action: row.status,
              personId: lead,
              at: row.changedAt,
            },
          ]),
    ]),
  );
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
    ...{ foundAt, changedAt: new Date(foundAt.getTime() + 45 * 60_000) },
  };
}
