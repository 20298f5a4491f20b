import { describe, expect, it } from 'vitest';
import { createRandom } from '../../values/fresh.ts';
import { DAY_MINUTES } from '../../time/working-time.ts';
import { findWhatHelps } from './find-what-helps.ts';
import { planCycle } from './plan-cycle.ts';
import type { PlanJob, PlanProblem } from './problem.ts';

/** A cycle of so many runs over three lanes with people of different days, some rules about who, and a few that wait. */
function createProblem(seed: number, runs: number): PlanProblem {
  const random = createRandom(seed);
  const below = (count: number) => Math.floor(random() * count);
  const lanes = ['desk', 'crew', 'bills'];
  const jobs = Array.from({ length: runs }, (_, run) =>
    Array.from({ length: 3 + below(4) }, (_job, index): PlanJob => ({
      ...{ id: `${run}.${index}`, run: `r${run}`, lane: lanes[below(3)]!, minutes: 5 * (1 + below(12)) },
      ...{
        after: index === 0 ? [] : [`${run}.${index - 1}`],
        waitDays: below(8) === 0 ? 1 : 0,
        notBefore: below(10) === 0 ? DAY_MINUTES : 0,
      },
      ...{
        worker: null,
        sameAs: index > 1 && below(6) === 0 ? `${run}.${index - 2}` : null,
        otherThan: index > 0 && below(6) === 0 ? [`${run}.${index - 1}`] : [],
      },
    })),
  ).flat();
  const workers = lanes.flatMap((lane, at) =>
    Array.from({ length: 2 + at }, (_, person) => ({
      ...{ id: `${lane}${person}`, lanes: person === 1 ? lanes : [lane], startsAt: 540 },
      minutesByDay: Array.from({ length: 40 }, (_day, day) => (day % 7 > 4 ? 0 : 60 + 30 * ((person + day) % 3))),
    })),
  );
  return {
    ...{
      jobs,
      workers,
      startsAt: 540,
      endsAt: 10 * DAY_MINUTES,
      runs: Array.from({ length: runs }, (_, run) => ({ id: `r${run}`, rank: run % 3 })),
    },
    lanes: lanes.map((id) => ({ id, minutesByDay: Array<number>(40).fill(120), startsAt: 540 })),
  };
}

const tell = (problem: PlanProblem, isQuick: boolean) => {
  const plan = planCycle(problem, { isQuick });
  const starts = plan.jobs.reduce((sum, { start }, index) => (sum + (start ?? -1) * (index + 1)) % 1_000_003, 0);
  const workers = plan.jobs.map(({ worker }) => (worker === null ? '-' : worker.slice(0, 1) + worker.slice(-1))).join('');
  return `ends ${plan.finish}, bound ${plan.lowerBound}, gap ${plan.gap.toFixed(4)}, chain ${plan.longestChain.join(' ')} to ${plan.chainEnd}, ${starts}, ${workers.slice(0, 60)}`;
};
const help = (problem: PlanProblem) => {
  const work = findWhatHelps(problem, planCycle(problem));
  for (let step = work.next(); ; step = work.next()) if (step.done) return JSON.stringify(step.value);
};

/**
 * A plan is the same each time, on any machine: the browser shows what the server keeps. The figures were obtained by running, and change only with
 * the planning itself; then no end may come later.
 */
describe('plans of one problem', () => {
  it.each([
    [
      1,
      6,
      'ends 3480, bound 3480, gap 0.0000, chain 5.0 5.1 5.2 5.3 5.4 5.5 to 3480, 648895, d0d1c2b1b1d1c2d1d1d1b2b2b2b1c0b1c1c1c1c1b0d0c1b1b1c1d0d1d0',
    ],
    [
      2,
      14,
      'ends 4935, bound 4935, gap 0.0000, chain 1.0 1.1 1.2 1.3 1.4 1.5 to 4935, 546460, b1d1b2c1d0c1c0d1d1d1d1b3b3d1b0c1c0b1b1b1b1c0c2b0d1b1c1c1d1b0',
    ],
    [
      3,
      25,
      'ends 6375, bound 3510, gap 0.6818, chain 3.0 3.1 3.2 3.3 3.4 3.5 to 3510, 43141, d0c2d1c1c2b2c1b2c0c1c1c1b1c0b1d1d1d1c1d1b0b2c1b2c2c1d0b0b1c1',
    ],
  ] as const)('seed %i, %i runs: the same plan', (seed, runs, expected) => expect(tell(createProblem(seed, runs), false)).toBe(expected));

  it.each([
    [
      1,
      6,
      'ends 4920, bound 3480, gap 0.4000, chain 5.0 5.1 5.2 5.3 5.4 5.5 to 3480, 794240, b1b1c1c1c1c0d1b1c0b1d1b1d1b0d1d1c1d0c0d0b0c1c1d0b0d0d0d0d0',
    ],
    [
      3,
      25,
      'ends 6375, bound 3510, gap 0.6818, chain 3.0 3.1 3.2 3.3 3.4 3.5 to 3510, 43141, d0c2d1c1c2b2c1b2c0c1c1c1b1c0b1d1d1d1c1d1b0b2c1b2c2c1d0b0b1c1',
    ],
  ] as const)('seed %i, %i runs: the same without the improvement', (seed, runs, expected) =>
    expect(tell(createProblem(seed, runs), true)).toBe(expected),
  );

  it('what would help is the same, too', () =>
    expect(help(createProblem(2, 30))).toBe(
      '[{"changes":[{"kind":"move person","person":"bills3","lane":"desk"}],"finish":12075,"stuck":0,"isEnough":true},{"changes":[{"kind":"more hours","lane":"crew","minutes":60}],"finish":6365,"stuck":0,"isEnough":true},{"changes":[{"kind":"more hours","lane":"desk","minutes":60}],"finish":6435,"stuck":0,"isEnough":true},{"changes":[{"kind":"more hours","lane":"bills","minutes":60}],"finish":10640,"stuck":0,"isEnough":true},{"changes":[{"kind":"more people","lane":"desk","count":1}],"finish":10655,"stuck":0,"isEnough":true},{"changes":[{"kind":"more people","lane":"crew","count":1}],"finish":10675,"stuck":0,"isEnough":true}]',
    ));
});
