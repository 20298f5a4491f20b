import { eq } from 'drizzle-orm';
import { assignTurns } from '@kindred-baton/core/cycles/assign-turns';
import { listWorkingDays, toDay } from '@kindred-baton/core/time/calendar';
import type { CyclePurpose, CycleState } from '@kindred-baton/core/cycles/cycle';
import type { CycleId, EnvironmentId, PersonId } from '@kindred-baton/core/ids';
import { chunk } from '../chunk.ts';
import type { NewTurn } from '../cycles/make-turns.ts';
import { keepBaseline } from '../cycles/keep-baseline.ts';
import { makeTurns } from '../cycles/make-turns.ts';
import type { LoadedScenario } from '../scenarios/load-chains.ts';
import { loadChains } from '../scenarios/load-chains.ts';
import type { RunRow } from '../schema/cycles.ts';
import { cycles, runs } from '../schema/cycles.ts';
import { teamMembers } from '../schema/programmes.ts';
import type { TestVersionRow } from '../schema/tests.ts';
import { testVersions } from '../schema/tests.ts';
import { attempts, stepResults, turns } from '../schema/turns.ts';
import type { DefectPlan } from './fates.ts';
import type { DemoTools, LaidProgramme } from './lay-programme.ts';
import type { RunFate, SimulatedRun } from './simulate-run.ts';
import { simulateRun } from './simulate-run.ts';

export const WEEKDAYS = { workingDays: [1, 2, 3, 4, 5], holidays: [] };
const DAY_START_HOUR = 9;
const DAY_MINUTES = 8 * 60;
export const TIME_ZONE = 'Europe/London';

export interface CyclePlan {
  readonly code: string;
  readonly name: string;
  readonly state: CycleState;
  readonly purpose: CyclePurpose;
  readonly environmentId: EnvironmentId;
  readonly startsOn: string;
  readonly endsOn: string;
  readonly rowsOf: (loaded: LoadedScenario) => LoadedScenario['rows'];
}

export interface PlannedRun {
  readonly run: Pick<RunRow, 'id' | 'values' | 'number' | 'rowName' | 'scenarioId'>;
  readonly scenario: LoadedScenario;
  readonly turns: readonly NewTurn[];
}

export type CycleTools = DemoTools & { readonly random: () => number };

/** Everything that is agreed, as cycles are planned from it. */
export async function loadAgreed({ db }: CycleTools, laid: LaidProgramme): Promise<LoadedScenario[]> {
  const actor = {
    programmeId: laid.programmeId,
    programmeKey: 'brindlemere',
    programmeName: 'Brindlemere Water Trust',
    severityNames: {},
    timeZone: TIME_ZONE,
    personId: laid.personOf.get('Lea Marsh') as PersonId,
    roles: ['lead'] as const,
  };
  const { scenarios } = await loadChains({ db, actor });
  return scenarios.filter(({ scenario }) => scenario.state === 'agreed');
}

/** A cycle with its runs, and the turns that they will have. */
export async function planCycle(
  tools: CycleTools,
  laid: LaidProgramme,
  plan: CyclePlan,
  scenarios: readonly LoadedScenario[],
): Promise<{ cycleId: CycleId; planned: PlannedRun[] }> {
  const { db, id } = tools;
  const cycleId = id<'cycle'>();
  const { rowsOf, ...fields } = plan;
  const openedAt = plan.state === 'planning' ? null : new Date(`${plan.startsOn}T08:00:00Z`);
  const closedAt = plan.state === 'closed' ? new Date(`${plan.endsOn}T17:00:00Z`) : null;
  await db.insert(cycles).values({
    ...fields,
    id: cycleId,
    programmeId: laid.programmeId,
    ownerId: laid.personOf.get('Lea Marsh') ?? null,
    openedAt,
    closedAt,
    createdAt: tools.now,
  });
  const workingDays = listWorkingDays(plan.startsOn, plan.endsOn, WEEKDAYS);
  let number = 0;
  const planned = scenarios.flatMap((scenario) =>
    rowsOf(scenario).map((row) => {
      number += 1;
      const run = { id: id<'run'>(), number, values: row.values, rowName: row.name, scenarioId: scenario.scenario.id };
      return {
        run,
        scenario,
        rowId: row.id,
        turns: makeTurns(
          { cycle: { id: cycleId, programmeId: laid.programmeId }, openLegs: 'refused', workingDays, createId: () => id<'turn'>() },
          run,
          scenario,
        ),
      };
    }),
  );
  const rows = planned.map(({ run, rowId, scenario }) => ({
    ...{ ...run, cycleId, rowId, priority: scenario.scenario.priority, position: run.number },
  }));
  for (const piece of chunk(rows)) await db.insert(runs).values(piece);
  return { cycleId, planned: await assign(tools, laid, planned) };
}

async function assign({ db }: CycleTools, laid: LaidProgramme, planned: readonly PlannedRun[]): Promise<PlannedRun[]> {
  const lanes = await db.select({ id: teamMembers.personId, team: teamMembers.teamId }).from(teamMembers);
  const order = [...laid.personOf.values()];
  const people = lanes.map((lane) => ({ ...lane, loadMinutes: 0 })).sort((a, b) => order.indexOf(a.id) - order.indexOf(b.id));
  const all = planned.flatMap((item) => item.turns);
  const { assigneeOf } = assignTurns(
    all.map((turn) => ({ id: turn.id, team: turn.teamId ?? '', minutes: turn.minutes })),
    people,
  );
  return planned.map((item) => ({
    ...item,
    turns: item.turns.map((turn) => ({ ...turn, assigneeId: (assigneeOf.get(turn.id) as PersonId | undefined) ?? null })),
  }));
}

interface Play {
  readonly cycleId: CycleId;
  readonly planned: readonly PlannedRun[];
  readonly fates: readonly RunFate[];
  readonly momentAt: (share: number) => Date;
  readonly environment: string;
  readonly defects: readonly DefectPlan[];
}

/** Plays runs up to their fates, and lays what came of it. */
export async function play(tools: CycleTools, { cycleId, planned, fates, momentAt, environment, defects }: Play): Promise<SimulatedRun[]> {
  const { db } = tools;
  const versionOf = new Map<string, TestVersionRow>((await db.select().from(testVersions)).map((version) => [version.id, version]));
  const defectOf = new Map(defects.map((defect) => [defect.key, defect]));
  const played = planned.map(({ run, turns: own }, index) => {
    const fate: RunFate = fates[index] ?? { cut: 0, mended: new Map() };
    // What stopped a run did so some time ago; who has not begun has had the baton for days.
    const pace = fate.stop === undefined ? 1 : fate.stop.kind === 'idle' ? 0.4 : 0.35 + tools.random() * 0.6;
    const paced = (share: number) => momentAt(share * pace);
    return simulateRun({ run, turns: own, versionOf, fate, defectOf, momentAt: paced, environment, id: tools.id, random: tools.random });
  });
  for (const piece of chunk(played.flatMap((item) => item.turns))) await db.insert(turns).values(piece);
  await keepBaseline(tools, cycleId);
  for (const piece of chunk(played.flatMap((item) => item.attempts))) await db.insert(attempts).values(piece);
  for (const piece of chunk(
    played.flatMap((item) => item.results),
    5_000,
  ))
    await db.insert(stepResults).values(piece);
  for (const [index, item] of played.entries()) {
    const run = planned[index]?.run;
    if (run && item.outcome !== 'not run') await db.update(runs).set({ outcome: item.outcome }).where(eq(runs.id, run.id));
  }
  return played;
}

/** Shares of the working time between the first day and an end: 9:00 to 17:00 on each working day. */
export function createClock(startsOn: string, end: Date): (share: number) => Date {
  const lastDay = toDay(end.getTime(), TIME_ZONE);
  const days = listWorkingDays(startsOn, lastDay, WEEKDAYS);
  const minutesToday = (end.getTime() - Date.parse(`${lastDay}T00:00:00Z`)) / 60_000 - DAY_START_HOUR * 60;
  const isPartial = days.at(-1) === lastDay;
  const total = (days.length - (isPartial ? 1 : 0)) * DAY_MINUTES + (isPartial ? Math.min(DAY_MINUTES, Math.max(0, minutesToday)) : 0);
  return (share) => {
    const minute = Math.min(0.999, Math.max(0, share)) * total;
    const day = days[Math.floor(minute / DAY_MINUTES)] ?? startsOn;
    return new Date(Date.parse(`${day}T00:00:00Z`) + (DAY_START_HOUR * 60 + (minute % DAY_MINUTES)) * 60_000);
  };
}
