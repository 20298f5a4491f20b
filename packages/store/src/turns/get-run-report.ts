import { AppError } from '@kindred-baton/contracts/errors';
import type { AttemptView, TurnCard } from '@kindred-baton/contracts/turns/turn';
import type { DefectStatus } from '@kindred-baton/core/defects/defect';
import type { RunId, TestVersionId, TurnId } from '@kindred-baton/core/ids';
import type { RunOutcome } from '@kindred-baton/core/outcomes';
import { pushTo } from '@kindred-baton/core/push-to';
import type { Step } from '@kindred-baton/core/tests/step';
import type { WorkingCalendar } from '@kindred-baton/core/time/calendar';
import { collectBaton } from '@kindred-baton/core/turns/assess-run';
import type { SQL } from 'drizzle-orm';
import { and, asc, eq, inArray } from 'drizzle-orm';
import type { Query, ReadContext } from '../operation.ts';
import { loadRuns } from '../runs/load-runs.ts';
import type { CycleRow } from '../schema/cycles.ts';
import { cycles, runs } from '../schema/cycles.ts';
import { defectTurns, defects } from '../schema/defects.ts';
import { personas } from '../schema/personas.ts';
import { teams } from '../schema/programmes.ts';
import { scenarios } from '../schema/scenarios.ts';
import { testVersions } from '../schema/tests.ts';
import { turns } from '../schema/turns.ts';
import { listAttempts } from './list-attempts.ts';
import { loadTurnCards } from './load-turn-cards.ts';

/** An attempt with the steps that were done in it, whatever its turn is pinned to by now. */
export interface ReportedAttempt extends AttemptView {
  readonly steps: readonly Step[];
}

export interface ReportedLeg {
  readonly turn: TurnCard;
  readonly persona: string | null;
  readonly calendar: WorkingCalendar;
  readonly defects: readonly { readonly code: string; readonly title: string; readonly status: DefectStatus }[];
  /** The newest first. */
  readonly attempts: readonly ReportedAttempt[];
}

export interface RunReport {
  readonly number: number;
  readonly outcome: RunOutcome;
  readonly left: string;
  readonly scenario: { readonly code: string; readonly name: string };
  readonly rowName: string | null;
  readonly cycle: { readonly code: string; readonly name: string };
  /** As its data row has them. */
  readonly values: Readonly<Record<string, string>>;
  /** What was handed on so far, and at which leg (from 0) it was kept. */
  readonly baton: readonly { readonly name: string; readonly value: string; readonly index: number }[];
  readonly legs: readonly ReportedLeg[];
}

/** One run as it went: every leg, who did it, what was seen and what was handed on. At most 22 queries, whatever the number of legs. */
export const getRunReport: Query<RunId, RunReport> = {
  right: 'read',
  read: async (context, runId) => {
    const [head] = await context.db
      .select({ run: runs, cycle: cycles, scenario: { code: scenarios.code, name: scenarios.name } })
      .from(runs)
      .innerJoin(cycles, eq(cycles.id, runs.cycleId))
      .innerJoin(scenarios, eq(scenarios.id, runs.scenarioId))
      .where(and(eq(runs.id, runId), eq(cycles.programmeId, context.actor.programmeId)));
    if (!head) throw new AppError('not found', 'There is no such run in this programme.');
    const { run, cycle, scenario } = head;
    const [legs, loaded] = await Promise.all([loadLegs(context, { where: eq(turns.runId, runId), cycle }), loadRuns(context, [runId])]);
    return {
      ...{ number: run.number, outcome: run.outcome, rowName: run.rowName, values: run.values, scenario, legs },
      cycle: { code: cycle.code, name: cycle.name },
      left: run.leftTo === null ? '' : `${run.leftTo}${run.leftReason === '' ? '' : `: ${run.leftReason}`}`,
      baton: collectBaton(loaded.get(runId)?.views ?? []),
    };
  },
};

/** One leg of a run as it went. */
export const getReportedLeg: Query<TurnId, ReportedLeg> = {
  right: 'read',
  read: async (context, turnId) => {
    const [cycle] = await context.db
      .select({ id: cycles.id, state: cycles.state })
      .from(cycles)
      .innerJoin(turns, eq(turns.cycleId, cycles.id))
      .where(and(eq(turns.id, turnId), eq(turns.programmeId, context.actor.programmeId)));
    const [leg] = cycle ? await loadLegs(context, { where: eq(turns.id, turnId), cycle }) : [];
    if (!leg) throw new AppError('not found', 'There is no such turn in this programme.');
    return leg;
  },
};

interface OfLegs {
  readonly where: SQL;
  readonly cycle: Pick<CycleRow, 'state'>;
}

async function loadLegs(context: ReadContext, { where, cycle }: OfLegs): Promise<ReportedLeg[]> {
  const heads = await context.db
    .select({ turn: turns, persona: personas.name, workingDays: teams.workingDays, holidays: teams.holidays })
    .from(turns)
    .leftJoin(teams, eq(teams.id, turns.teamId))
    .leftJoin(personas, eq(personas.id, turns.personaId))
    .where(where)
    .orderBy(asc(turns.index));
  const ids = heads.map(({ turn }) => turn.id);
  const [cards, tries, known] = await Promise.all([
    loadTurnCards(context, { where, limit: Math.max(1, ids.length) }),
    listAttempts(
      context,
      heads.map(({ turn }) => turn),
      cycle,
    ),
    listDefects(context, ids),
  ]);
  const stepsOf = await loadSteps(
    context,
    [...tries.values()].flat().flatMap(({ versionId }) => (versionId === null ? [] : [versionId])),
  );
  const cardOf = new Map(cards.map((card) => [card.id, card]));
  return heads.flatMap(({ turn, persona, workingDays, holidays }): ReportedLeg[] => {
    const card = cardOf.get(turn.id);
    if (!card) return [];
    const attempts = (tries.get(turn.id) ?? []).map(({ view, versionId }) => ({
      ...view,
      steps: (versionId === null ? turn.bare?.steps : stepsOf.get(versionId)) ?? [],
    }));
    const calendar = { workingDays: workingDays ?? [1, 2, 3, 4, 5], holidays: holidays ?? [] };
    return [{ turn: card, persona, calendar, defects: known.get(turn.id) ?? [], attempts }];
  });
}

async function loadSteps({ db }: ReadContext, versionIds: readonly TestVersionId[]): Promise<ReadonlyMap<TestVersionId, readonly Step[]>> {
  const rows = await db
    .select({ id: testVersions.id, steps: testVersions.steps })
    .from(testVersions)
    .where(inArray(testVersions.id, [...new Set(versionIds)]));
  return new Map(rows.map(({ id, steps }) => [id, steps]));
}

async function listDefects({ db }: ReadContext, turnIds: readonly TurnId[]): Promise<ReadonlyMap<TurnId, ReportedLeg['defects']>> {
  const rows = await db
    .select({ turnId: defectTurns.turnId, code: defects.code, title: defects.title, status: defects.status })
    .from(defectTurns)
    .innerJoin(defects, eq(defects.id, defectTurns.defectId))
    .where(inArray(defectTurns.turnId, [...turnIds]))
    .orderBy(asc(defects.number));
  const of = new Map<TurnId, ReportedLeg['defects'][number][]>();
  for (const { turnId, ...defect } of rows) pushTo(of, turnId, defect);
  return of;
}
