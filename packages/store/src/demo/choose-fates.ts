import type { PersonId } from '@kindred-baton/core/ids';
import type { StopPlan } from './fates.ts';
import { MENDED_PLANS, STOP_PLANS } from './fates.ts';
import type { PlannedRun } from './play-cycle.ts';
import type { RunFate } from './simulate-run.ts';

/** How far a run that nothing stops has come: a fifth is through, the rest are about where the plan has them, or further. */
const THROUGH_SHARE = 0.2;
const ON_PLAN_SHARE = 0.3;

interface Choice {
  readonly random: () => number;
  readonly personOf: ReadonlyMap<string, PersonId>;
  /** A day some working days ago: what a person has not begun was due then. */
  readonly overdue: string;
}

/** Gives every run of the open cycle its fate. Runs that wait for a person are assigned to that person there. */
export function chooseFates(
  planned: readonly PlannedRun[],
  { random, personOf, overdue }: Choice,
): { fates: RunFate[]; planned: PlannedRun[] } {
  const stops = STOP_PLANS.map((plan) => ({ plan, left: plan.runs }));
  const mends = MENDED_PLANS.map((plan) => ({ plan, left: plan.runs }));
  const settled: PlannedRun[] = [];
  const fates = planned.map((item) => {
    const codes = item.scenario.legs.map((leg) => leg.test?.code ?? '');
    const stop = stops.find(
      ({ plan, left }) =>
        left > 0 &&
        plan.scenarios.includes(item.scenario.scenario.code) &&
        codes.includes(plan.test) &&
        hasValues(item.run.values, plan.values),
    );
    const cut = stop
      ? codes.indexOf(stop.plan.test)
      : random() < THROUGH_SHARE
        ? codes.length
        : Math.ceil((ON_PLAN_SHARE + random() * (0.75 - ON_PLAN_SHARE)) * codes.length);
    if (stop) stop.left -= 1;
    const mended = new Map<number, string>();
    for (const mend of mends) {
      const index = codes.indexOf(mend.plan.test);
      if (mend.left > 0 && index >= 0 && index < cut) {
        mended.set(index, mend.plan.key);
        mend.left -= 1;
      }
    }
    const waitsFor = stop?.plan.by.kind === 'idle' ? (personOf.get(stop.plan.by.person) ?? null) : null;
    settled.push(
      waitsFor
        ? { ...item, turns: item.turns.map((turn, index) => (index === cut ? { ...turn, assigneeId: waitsFor, dueOn: overdue } : turn)) }
        : item,
    );
    return { cut, stop: stop?.plan.by, on: stop?.plan.on, mended };
  });
  return { fates, planned: settled };
}

const hasValues = (own: Readonly<Record<string, string>>, wanted: StopPlan['values'] = {}) =>
  Object.entries(wanted).every(([name, values]) => values.includes(own[name] ?? ''));

/** In the closed cycle every run is through, but for one failure in each stream but the first. */
export function completeFates(planned: readonly PlannedRun[]): RunFate[] {
  const seen = new Set<string>();
  return planned.map(({ scenario, turns }) => {
    const stream = scenario.scenario.code.slice(0, 2);
    const fails = stream !== 'NS' && !seen.has(stream);
    seen.add(stream);
    const mended = new Map<number, string>();
    return fails
      ? { cut: turns.length - 1, stop: { kind: 'failure', seen: 'The last posting was missing' }, mended }
      : { cut: turns.length, mended };
  });
}
