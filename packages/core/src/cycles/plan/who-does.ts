import { KeepApart } from '../keep-apart.ts';
import { pushTo } from '../../push-to.ts';
import type { JobGraph } from './job-graph.ts';
import type { PlanProblem } from './problem.ts';

/** Who may do which job, by their places in the problem. Jobs of one person are one piece; what was given by name stays with that name. */
export interface WhoDoes {
  /** By job: its piece. */
  readonly pieceOf: readonly number[];
  /** By lane: its people. */
  readonly laneOf: ReadonlyMap<string, readonly number[]>;
  readonly able: readonly (readonly number[])[];
  /** A state of its own for each plan that is tried. */
  readonly create: () => KeepApart;
}

/** Cost O(jobs × people of a lane). */
export function findWhoDoes(problem: PlanProblem, graph: JobGraph): WhoDoes {
  const { jobs, workers } = problem;
  const workerAt = new Map(workers.map(({ id }, index) => [id, index]));
  const laneOf = new Map<string, number[]>();
  workers.forEach(({ lanes }, index) => lanes.forEach((lane) => pushTo(laneOf, lane, index)));
  const named = jobs.map(({ worker }) => (worker === null ? undefined : workerAt.get(worker)));
  const groups = joinGroups(problem, graph);
  const nameOfGroup = new Map<number, number>();
  groups.forEach((group, index) => {
    const name = named[index];
    if (name !== undefined && !nameOfGroup.has(group)) nameOfGroup.set(group, name);
  });
  const pieces = new Map<string, number>();
  const members: number[][] = [];
  const pieceOf = jobs.map((_, index) => {
    const key = `${groups[index]} ${named[index] ?? nameOfGroup.get(groups[index]!) ?? ''}`;
    const piece = pieces.get(key) ?? pieces.set(key, pieces.size).get(key)!;
    (members[piece] ??= []).push(index);
    return piece;
  });
  const given = members.map(([first]) => named[first!] ?? nameOfGroup.get(groups[first!]!) ?? -1);
  const able = members.map((own, piece) => (given[piece]! >= 0 ? [given[piece]!] : listAble(problem, own, { laneOf, workerAt })));
  const apart: number[][] = members.map(() => []);
  jobs.forEach(({ otherThan }, index) => {
    for (const other of otherThan.flatMap((id) => graph.indexOf.get(id) ?? [])) {
      apart[pieceOf[index]!]!.push(pieceOf[other]!);
      apart[pieceOf[other]!]!.push(pieceOf[index]!);
    }
  });
  return { pieceOf, laneOf, able, create: () => new KeepApart({ able, apart, given }) };
}

type Places = { readonly laneOf: ReadonlyMap<string, readonly number[]>; readonly workerAt: ReadonlyMap<string, number> };

/** The people of the lane, without those who did what another must do; whoever did what the same person must do, where she is still there. */
function listAble({ jobs }: PlanProblem, members: readonly number[], { laneOf, workerAt }: Places): readonly number[] {
  const only = members.flatMap((index) => workerAt.get(jobs[index]!.onlyBy ?? '') ?? [])[0];
  if (only !== undefined) return [only];
  const lane = laneOf.get(jobs[members[0]!]!.lane) ?? [];
  const not = new Set(members.flatMap((index) => (jobs[index]!.notBy ?? []).flatMap((id) => workerAt.get(id) ?? [])));
  return not.size === 0 ? lane : lane.filter((worker) => !not.has(worker));
}

/** Jobs of one person share a number. A job of another lane than the one it names goes on its own. */
function joinGroups({ jobs }: PlanProblem, { indexOf }: JobGraph): number[] {
  const groups = jobs.map((_, index) => index);
  const find = (index: number): number => {
    let root = index;
    while (groups[root] !== root) root = groups[root]!;
    return root;
  };
  jobs.forEach(({ sameAs, lane }, index) => {
    const mate = sameAs === null ? undefined : indexOf.get(sameAs);
    if (mate !== undefined && jobs[mate]!.lane === lane) groups[find(index)] = find(mate);
  });
  return groups.map((_, index) => find(index));
}
