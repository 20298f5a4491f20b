import { addWorkingDays, isWorkingDay, toDay } from '@kindred-baton/core/time/calendar';
import { chunk } from '../../chunk.ts';
import type { LoadedScenario } from '../../scenarios/load-chains.ts';
import { turns } from '../../schema/turns.ts';
import { layDefects } from '../lay-defects.ts';
import type { LaidProgramme } from '../lay-programme.ts';
import type { CyclePlan, CycleTools, PlannedRun } from '../play-cycle.ts';
import { createClock, loadAgreed, planCycle, play, TIME_ZONE, WEEKDAYS } from '../play-cycle.ts';
import type { BigFates } from './big-fates.ts';
import { chooseBigFates, completeBigFates } from './big-fates.ts';
import type { BigSize } from './big-size.ts';

/** When each begins: working days from the first of the open cycle on. */
const CLOSED = [
  { code: 'INT-1', name: 'Integration round 1', purpose: 'integration', begins: -125 },
  { code: 'INT-2', name: 'Integration round 2', purpose: 'integration', begins: -100 },
  { code: 'INT-3', name: 'Integration round 3', purpose: 'integration', begins: -75 },
  { code: 'ACC-1', name: 'Acceptance round 1', purpose: 'acceptance', begins: -50 },
] as const;
const OPEN = { code: 'ACC-2', name: 'Acceptance round 2', purpose: 'acceptance', begins: 0 } as const;
const PLANNED = { code: 'REG-4.2', name: 'Regression for release 4.2', purpose: 'regression', begins: 35 } as const;
/** Working days that the open cycle has been running for; all but it last 20. */
const DAYS_GONE = 15;
const [OPEN_DAYS, DAYS] = [30, 20];

/** Lays six cycles: four closed, one half through, one being planned. */
export async function layBigCycles(tools: CycleTools, laid: LaidProgramme, { runs, closedDefects }: BigSize): Promise<void> {
  const agreed = await loadAgreed(tools, laid);
  const today = toDay(tools.now.getTime(), TIME_ZONE);
  const day = isWorkingDay(today, WEEKDAYS) ? today : addWorkingDays(today, -1, WEEKDAYS);
  const starts = addWorkingDays(day, -DAYS_GONE, WEEKDAYS);
  const make = (about: typeof OPEN | typeof PLANNED | (typeof CLOSED)[number], state: CyclePlan['state'], rows: CyclePlan['rowsOf']) => {
    const { begins, ...fields } = about;
    const startsOn = begins === 0 ? starts : addWorkingDays(starts, begins, WEEKDAYS);
    const endsOn = addWorkingDays(startsOn, (about === OPEN ? OPEN_DAYS : DAYS) - 1, WEEKDAYS);
    const environmentId = about.purpose === 'integration' ? laid.integrationId : laid.rehearsalId;
    return { ...fields, state, startsOn, endsOn, environmentId, rowsOf: rows };
  };
  let from = 1;
  for (const [index, about] of CLOSED.entries()) {
    const plan = make(about, 'closed', chooseRows(agreed, runs.closed, index));
    from = await playOut({ tools, laid, agreed }, plan, (planned) => completeBigFates(planned, closedDefects, tools.random), from);
  }
  const open = make(OPEN, 'open', chooseRows(agreed, runs.open, 0));
  await playOut({ tools, laid, agreed }, open, (planned) => chooseBigFates(planned, tools.random), from);
  const { planned } = await planCycle(tools, laid, make(PLANNED, 'planning', chooseRows(agreed, runs.planned, 1)), agreed);
  for (const piece of chunk(planned.flatMap((item) => item.turns))) await tools.db.insert(turns).values(piece);
}

interface Ground {
  readonly tools: CycleTools;
  readonly laid: LaidProgramme;
  readonly agreed: readonly LoadedScenario[];
}

/** Returns the number of the next defect. */
async function playOut(
  { tools, laid, agreed }: Ground,
  plan: CyclePlan,
  choose: (planned: readonly PlannedRun[]) => BigFates,
  from: number,
): Promise<number> {
  const { planned, cycleId } = await planCycle(tools, laid, plan, agreed);
  const { fates, defects } = choose(planned);
  const momentAt = createClock(plan.startsOn, plan.state === 'closed' ? new Date(`${plan.endsOn}T16:00:00Z`) : tools.now);
  const environment = plan.purpose === 'integration' ? 'Integration' : 'Rehearsal';
  const played = await play(tools, { cycleId, planned, fates, momentAt, environment, defects });
  const failures = played.flatMap((item) => item.failures);
  return layDefects(tools, laid, { cycleId, failures, plans: defects, from });
}

/** So many runs, in rounds over all scenarios: the first row of each from `skip` on, then the next; the last round takes scenarios of all kinds. */
function chooseRows(scenarios: readonly LoadedScenario[], runs: number, skip: number): CyclePlan['rowsOf'] {
  const chosen = new Set<string>();
  const most = Math.max(0, ...scenarios.map(({ rows }) => rows.length));
  for (let round = 0; round < most && chosen.size < runs; round += 1) {
    const all = scenarios.flatMap(({ rows }) => (round < rows.length ? [rows[(skip + round) % rows.length]!.id] : []));
    for (const id of takeEvenly(all, runs - chosen.size)) chosen.add(id);
  }
  return ({ rows }) => rows.filter(({ id }) => chosen.has(id));
}

function takeEvenly<T>(items: readonly T[], wanted: number): T[] {
  const share = Math.min(1, wanted / items.length);
  return items.filter((_, index) => Math.floor((index + 1) * share) > Math.floor(index * share));
}
