import { addWorkingDays, isWorkingDay, toDay } from '@kindred-baton/core/time/calendar';
import type { PersonId } from '@kindred-baton/core/ids';
import { NO_COUNTS } from '@kindred-baton/core/progress/tally';
import { chunk } from '../chunk.ts';
import type { LoadedScenario } from '../scenarios/load-chains.ts';
import { signOffs } from '../schema/cycles.ts';
import { absences } from '../schema/programmes.ts';
import { turns } from '../schema/turns.ts';
import { DEMO_ABSENCE, STREAM_OWNERS } from './people-and-teams.ts';
import { chooseFates, completeFates } from './choose-fates.ts';
import { DEFECT_PLANS } from './fates.ts';
import { layDefects } from './lay-defects.ts';
import type { LaidProgramme } from './lay-programme.ts';
import type { CyclePlan, CycleTools } from './play-cycle.ts';
import { createClock, loadAgreed, planCycle, play, TIME_ZONE, WEEKDAYS } from './play-cycle.ts';

/** The number of the first defect. */
const FIRST_DEFECT = 202;

/** Lays the three cycles: one closed, one in its sixth day of fifteen, one being planned. */
export async function layCycles(tools: CycleTools, laid: LaidProgramme): Promise<void> {
  const { now } = tools;
  const agreed = await loadAgreed(tools, laid);
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

async function layFirst(tools: CycleTools, laid: LaidProgramme, plan: CyclePlan, scenarios: readonly LoadedScenario[]): Promise<void> {
  const { cycleId, planned } = await planCycle(tools, laid, plan, scenarios);
  const momentAt = createClock(plan.startsOn, new Date(`${plan.endsOn}T16:00:00Z`));
  const played = await play(tools, { cycleId, planned, fates: completeFates(planned), momentAt, environment: 'Integration', defects: [] });
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
  tools: CycleTools,
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
  const played = await play(tools, { cycleId, planned: settled, fates, momentAt, environment: 'Rehearsal', defects: DEFECT_PLANS });
  const failures = played.flatMap((item) => item.failures);
  await layDefects(tools, laid, { cycleId, failures, plans: DEFECT_PLANS, from: FIRST_DEFECT });
}

async function layThird(tools: CycleTools, laid: LaidProgramme, plan: CyclePlan, scenarios: readonly LoadedScenario[]): Promise<void> {
  const { planned } = await planCycle(tools, laid, plan, scenarios);
  for (const piece of chunk(planned.flatMap((item) => item.turns))) await tools.db.insert(turns).values(piece);
}
