/**
 * An improvement step: the order of a schedule is changed a little, again and again, and placed anew; what is not worse is kept (a search in
 * the neighbourhood, common practice). Its length is bounded by work, not by the clock: the same problem gives the same plan.
 */
import { createRandom } from '../../values/fresh.ts';
import type { Placing, PlacingParts } from './place-jobs.ts';
import { placeJobs } from './place-jobs.ts';
import type { Schedule } from './schedule-jobs.ts';

/** At most so many jobs are placed, over all tries … */
const MOST_PLACED = 24_000;
/** … and so many tries are made. */
const MOST_TRIES = 600;
/** After so many tries without anything better it begins again from the best. */
const PATIENCE = 60;

/** Fewer stuck jobs first, then the sooner finish. */
export function isBetter(a: Schedule, b: Schedule): boolean {
  return compare(measure(a), measure(b)) < 0;
}

interface Measure {
  readonly stuck: number;
  readonly finish: number;
}

const compare = (a: Measure, b: Measure) => a.stuck - b.stuck || a.finish - b.finish;

function measure({ ends }: Pick<Schedule, 'ends'>): Measure {
  let [stuck, finish] = [0, 0];
  for (const end of ends) {
    if (end === Infinity) stuck += 1;
    else finish = Math.max(finish, end);
  }
  return { stuck, finish };
}

/** `bound`: no plan ends sooner; once it is reached with nothing stuck, the search ends. */
export function improveSchedule(parts: PlacingParts, first: Schedule, bound: number): Schedule {
  const size = parts.problem.jobs.length;
  const tries = size < 2 ? 0 : Math.min(MOST_TRIES, Math.floor(MOST_PLACED / size));
  const random = createRandom(size);
  let best = { schedule: first, ...measure(first), placing: toPlacing(first) };
  let at: Measure & { placing: Placing } = best;
  let waited = 0;
  for (let count = 0; count < tries && (best.finish > bound || best.stuck > 0); count += 1) {
    const placing = count === 0 ? best.placing : vary(at.placing, random);
    const schedule = placeJobs(parts, placing);
    const found = { schedule, ...measure(schedule), placing };
    if (compare(found, at) <= 0) at = found;
    waited += 1;
    if (compare(found, best) < 0) [best, waited] = [found, 0];
    else if (waited > PATIENCE) [at, waited] = [best, 0];
  }
  return best.schedule;
}

/** The jobs in the order in which they begin. */
function toPlacing({ starts }: Schedule): Placing {
  const order = Array.from(starts, (_, index) => index).sort((a, b) => starts[a]! - starts[b]! || a - b);
  const list = new Float64Array(order.length);
  order.forEach((index, place) => (list[index] = place));
  return { list, passedOver: new Uint8Array(order.length) };
}

/** One job or two to another place, or to another person. */
function vary({ list, passedOver }: Placing, random: () => number): Placing {
  const next = { list: list.slice(), passedOver: passedOver.slice() };
  const below = (count: number) => Math.floor(random() * count);
  for (let moves = random() < 0.5 ? 1 : 2; moves > 0; moves -= 1) {
    const index = below(list.length);
    if (random() < 0.25) next.passedOver[index] = below(3);
    else next.list[index] = next.list[below(list.length)]! + random() - 0.5;
  }
  return next;
}
