/** The figure of the forecast: 5,000 turns in 12 lanes, 2,000 paths, drawn by two threads as the page's workers do. */
import { once } from 'node:events';
import { Worker } from 'node:worker_threads';
import type { CourseFacts, CourseTry, CourseTurn } from '@kindred-baton/core/progress/course';
import type { DrawnPaths } from '@kindred-baton/core/progress/forecast';
import { drawPaths, forecastCourse } from '@kindred-baton/core/progress/forecast';
import { createRandom } from '@kindred-baton/core/values/fresh';
import type { Figure } from './bench-figure.ts';
import { median } from './bench-figure.ts';

const [RUNS, LEGS, LANES, TODAY] = [500, 10, 12, 8];

/** A third is through on the ninth day, a tenth of it at the second try. */
function createFacts(): CourseFacts {
  const random = createRandom(3);
  const tries: CourseTry[] = [];
  const turns = Array.from({ length: RUNS * LEGS }, (_, at): CourseTurn => {
    const [run, index, lane] = [Math.floor(at / LEGS), at % LEGS, Math.floor(random() * LANES)];
    const isThrough = run < RUNS * 0.3;
    const day = Math.floor(run / 20);
    if (isThrough && random() < 0.1) tries.push({ turn: at, day, lane, isThrough: false });
    if (isThrough) tries.push({ turn: at, day, lane, isThrough });
    return {
      ...{ run, index, lane, group: lane, after: index > 0 ? [index - 1] : [], waitDays: 0, minutes: 10 + Math.floor(random() * 40) },
      ...{
        isThrough,
        isWrong: false,
        isStopped: false,
        leftOutOn: null,
        isSparable: false,
        isCounted: true,
        dueOn: Math.floor(random() * 20),
      },
    };
  });
  const minutesByDay = Array.from({ length: 230 }, (_, day) => (day % 7 > 4 ? 0 : 1_200));
  return {
    ...{ today: TODAY, firstShare: 1, todayShare: 0.5, groups: LANES, turns, tries },
    lanes: Array.from({ length: LANES }, () => ({ people: 5, minutesByDay })),
  };
}

const ROUNDS = 5;

export async function benchForecast(): Promise<Figure[]> {
  const request = { facts: createFacts(), options: { unit: 'turns', plannedDay: 20 } } as const;
  const half = new URL('./bench-forecast-half.ts', import.meta.url).href;
  const beside = new Worker(`import('tsx/esm/api').then(({ register }) => [register(), import(${JSON.stringify(half)})])`, { eval: true });
  const draw = async () => {
    const start = performance.now();
    const others = once(beside, 'message') as Promise<[DrawnPaths]>;
    beside.postMessage(request);
    const own = drawPaths(request.facts, request.options, 0);
    forecastCourse(request.facts, request.options, [own, (await others)[0]]);
    return performance.now() - start;
  };
  await draw();
  const rounds: number[] = [];
  for (let round = 0; round < ROUNDS; round += 1) rounds.push(await draw());
  await beside.terminate();
  return [
    { name: 'Forecast of 5,000 turns in 12 lanes', value: median(rounds), bound: 1_000, unit: 'ms', note: '2,000 paths, 3,500 turns left' },
  ];
}
