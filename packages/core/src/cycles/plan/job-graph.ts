import { orderNodes } from '../../graph/order-nodes.ts';
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
  const { order, next, cyclic } = orderNodes(before);
  if (cyclic.length > 0) throw new RangeError('Some turns wait for one another in a circle.');
  return { order, before, behind: next, indexOf };
}
