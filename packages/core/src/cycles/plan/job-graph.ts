import type { PlanJob } from './problem.ts';

/** Jobs by number, in an order in which each stands after those it waits for. */
export interface JobGraph {
  readonly order: readonly number[];
  readonly before: readonly (readonly number[])[];
  readonly behind: readonly (readonly number[])[];
  readonly indexOf: ReadonlyMap<string, number>;
}

/** Throws RangeError where jobs wait for one another in a circle: the wiring does not let that happen. Cost O(jobs + waits). */
export function createJobGraph(jobs: readonly Pick<PlanJob, 'id' | 'after'>[]): JobGraph {
  const indexOf = new Map(jobs.map(({ id }, index) => [id, index]));
  const before = jobs.map(({ after }) => [...new Set(after.flatMap((id) => indexOf.get(id) ?? []))]);
  const behind: number[][] = jobs.map(() => []);
  before.forEach((list, index) => list.forEach((earlier) => behind[earlier]!.push(index)));
  const waits = before.map((list) => list.length);
  const order = waits.flatMap((count, index) => (count === 0 ? [index] : []));
  for (let at = 0; at < order.length; at += 1) {
    for (const next of behind[order[at]!]!) {
      waits[next]! -= 1;
      if (waits[next] === 0) order.push(next);
    }
  }
  if (order.length < jobs.length) throw new RangeError('Some turns wait for one another in a circle.');
  return { order, before, behind, indexOf };
}
