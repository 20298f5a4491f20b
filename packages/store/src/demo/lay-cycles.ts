import { eq } from 'drizzle-orm';
import { assignTurns } from '@kindred-baton/core/cycles/assign-turns';
import { addWorkingDays, isWorkingDay, listWorkingDays, toDay } from '@kindred-baton/core/time/calendar';
import type { CyclePurpose, CycleState } from '@kindred-baton/core/cycles/cycle';
import type { CycleId, EnvironmentId, PersonId } from '@kindred-baton/core/ids';
import { NO_COUNTS } from '@kindred-baton/core/progress/tally';
import { chunk } from '../chunk.ts';
import type { NewTurn } from '../cycles/make-turns.ts';
import { makeTurns } from '../cycles/make-turns.ts';
import type { LoadedScenario } from '../scenarios/load-chains.ts';
import { loadChains } from '../scenarios/load-chains.ts';
import type { RunRow } from '../schema/cycles.ts';
import { cycles, runs, signOffs } from '../schema/cycles.ts';
import { absences, teamMembers } from '../schema/programmes.ts';
import type { TestVersionRow } from '../schema/tests.ts';
import { testVersions } from '../schema/tests.ts';
import { attempts, stepResults, turns } from '../schema/turns.ts';
import { DEMO_ABSENCE, STREAM_OWNERS } from './people-and-teams.ts';
import { chooseFates, completeFates } from './choose-fates.ts';
import { layDefects } from './lay-defects.ts';
import type { DemoTools, LaidProgramme } from './lay-programme.ts';
import type { RunFate, SimulatedRun } from './simulate-run.ts';
import { simulateRun } from './simulate-run.ts';

const WEEKDAYS = { workingDays: [1, 2, 3, 4, 5], holidays: [] };
const DAY_START_HOUR = 9;
const DAY_MINUTES = 8 * 60;
const TIME_ZONE = 'Europe/London';

interface CyclePlan {
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

/** Lays the three cycles: one closed, one in its sixth day of fifteen, one being planned. */
export async function layCycles(tools: DemoTools & { random: () => number }, laid: LaidProgramme): Promise<void> {
  const { now } = tools;
  const actor = {
    programmeId: laid.programmeId,
    programmeKey: 'brindlemere',
    programmeName: 'Brindlemere Water Trust',
    severityNames: {},
    timeZone: TIME_ZONE,
    personId: laid.personOf.get('Lea Marsh') as PersonId,
    roles: ['lead'] as const,
  };
  const { scenarios } = await loadChains({ db: tools.db, actor });
  const agreed = scenarios.filter(({ scenario }) => scenario.state === 'agreed');
  const today = toDay(now.getTime(), TIME_ZONE);
  const sixthDay = isWorkingDay(today, WEEKDAYS) ? today : addWorkingDays(today, -1, WEEKDAYS);
  const starts = addWorkingDays(sixthDay, -5, WEEKDAYS);
  const first: CyclePlan = {
    ...{ code: 'INT-1', name: 'Integration round 1', state: 'closed', purpose: 'integration', environmentId: laid.integrationId },
    ...{
      startsOn: addWorkingDays(starts, -25, WEEKDAYS),
      endsOn: addWorkingDays(starts, -11, WEEKDAYS),
      rowsOf: ({ rows }) => rows.slice(0, 2),
    },
  };
  const second: CyclePlan = {
    ...{ code: 'ACC-2', name: 'Acceptance round 2', state: 'open', purpose: 'acceptance', environmentId: laid.rehearsalId },
    ...{ startsOn: starts, endsOn: addWorkingDays(starts, 14, WEEKDAYS), rowsOf: ({ rows }) => rows },
  };
  const third: CyclePlan = {
    ...{ code: 'REG-4.2', name: 'Regression for release 4.2', state: 'planning', purpose: 'regression', environmentId: laid.rehearsalId },
    ...{
      startsOn: addWorkingDays(starts, 20, WEEKDAYS),
      endsOn: addWorkingDays(starts, 29, WEEKDAYS),
      rowsOf: ({ scenario, rows }) => (scenario.priority === 'high' ? rows.slice(0, 2) : []),
    },
  };
  await tools.db.insert(absences).values({
    ...{ programmeId: laid.programmeId, personId: laid.personOf.get(DEMO_ABSENCE.person) as PersonId, note: DEMO_ABSENCE.note },
    ...{ firstDay: addWorkingDays(sixthDay, DEMO_ABSENCE.from, WEEKDAYS), lastDay: addWorkingDays(sixthDay, DEMO_ABSENCE.to, WEEKDAYS) },
  });
  await layFirst(tools, laid, first, agreed);
  await laySecond(tools, laid, second, agreed, now);
  await layThird(tools, laid, third, agreed);
}

type Tools = DemoTools & { readonly random: () => number };

async function planCycle(
  tools: Tools,
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
  await db
    .insert(runs)
    .values(
      planned.map(({ run, rowId, scenario }) => ({ ...run, cycleId, rowId, priority: scenario.scenario.priority, position: run.number })),
    );
  return { cycleId, planned: await assign(tools, laid, planned) };
}

async function assign({ db }: Tools, laid: LaidProgramme, planned: readonly PlannedRun[]): Promise<PlannedRun[]> {
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
  readonly planned: readonly PlannedRun[];
  readonly fates: readonly RunFate[];
  readonly momentAt: (share: number) => Date;
  readonly environment: string;
}

async function play(tools: Tools, { planned, fates, momentAt, environment }: Play): Promise<SimulatedRun[]> {
  const { db } = tools;
  const versionOf = new Map<string, TestVersionRow>((await db.select().from(testVersions)).map((version) => [version.id, version]));
  const played = planned.map(({ run, turns: own }, index) => {
    const fate: RunFate = fates[index] ?? { cut: 0, mended: new Map() };
    // What stopped a run did so some time ago; who has not begun has had the baton for days.
    const pace = fate.stop === undefined ? 1 : fate.stop.kind === 'idle' ? 0.4 : 0.35 + tools.random() * 0.6;
    const paced = (share: number) => momentAt(share * pace);
    return simulateRun({ run, turns: own, versionOf, fate, momentAt: paced, environment, id: tools.id, random: tools.random });
  });
  for (const piece of chunk(played.flatMap((item) => item.turns))) await db.insert(turns).values(piece);
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
function createClock(startsOn: string, end: Date): (share: number) => Date {
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

async function layFirst(tools: Tools, laid: LaidProgramme, plan: CyclePlan, scenarios: readonly LoadedScenario[]): Promise<void> {
  const { cycleId, planned } = await planCycle(tools, laid, plan, scenarios);
  const momentAt = createClock(plan.startsOn, new Date(`${plan.endsOn}T16:00:00Z`));
  const played = await play(tools, { planned, fates: completeFates(planned), momentAt, environment: 'Integration' });
  const decisions = Object.entries(STREAM_OWNERS).map(([code, owner], index) => {
    const own = played.flatMap((item, place) => (planned[place]?.scenario.scenario.code.startsWith(code) ? item.turns : []));
    const figures = { ...NO_COUNTS } as Record<keyof typeof NO_COUNTS, number>;
    for (const turn of own) figures[turn.status ?? 'waiting'] += 1;
    const hasFailures = figures.failed > 0;
    return {
      ...{ cycleId, figures, nodeId: laid.nodeOf.get(code) ?? tools.id<'node'>(), decidedBy: laid.personOf.get(owner) as PersonId },
      decision: hasFailures ? ('accepted with reservations' as const) : ('accepted' as const),
      reason: hasFailures ? 'What failed is mended and run again in the acceptance round.' : '',
      decidedAt: new Date(`${plan.endsOn}T${String(13 + (index % 4))}:20:00Z`),
    };
  });
  await tools.db.insert(signOffs).values(decisions);
}

async function laySecond(
  tools: Tools,
  laid: LaidProgramme,
  plan: CyclePlan,
  scenarios: readonly LoadedScenario[],
  now: Date,
): Promise<void> {
  const { cycleId, planned } = await planCycle(tools, laid, plan, scenarios);
  const { fates, planned: settled } = chooseFates(planned, {
    random: tools.random,
    personOf: laid.personOf,
    overdue: addWorkingDays(plan.startsOn, 2, WEEKDAYS),
  });
  const momentAt = createClock(plan.startsOn, now);
  const played = await play(tools, { planned: settled, fates, momentAt, environment: 'Rehearsal' });
  await layDefects(
    tools,
    laid,
    cycleId,
    played.flatMap((item) => item.failures),
  );
}

async function layThird(tools: Tools, laid: LaidProgramme, plan: CyclePlan, scenarios: readonly LoadedScenario[]): Promise<void> {
  const { planned } = await planCycle(tools, laid, plan, scenarios);
  for (const piece of chunk(planned.flatMap((item) => item.turns))) await tools.db.insert(turns).values(piece);
}
