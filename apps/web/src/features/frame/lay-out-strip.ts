import type { StripNode } from '@kindred-baton/core/progress/strip';
import { addCounts, NO_COUNTS, sumCounts } from '@kindred-baton/core/progress/tally';
import type { Counts } from '@kindred-baton/core/progress/tally';

export interface StripBlock {
  readonly key: string;
  /** The node's code; null for small blocks that were joined. */
  readonly code: string | null;
  readonly name: string;
  readonly depth: number;
  readonly left: number;
  readonly width: number;
  readonly counts: Counts;
  readonly parent: string | null;
}

const ROWS = 3;
/** How much of the width goes to places without regard to their turns, at most. */
const SHARE_OF_PLACES = 0.1;
/** Streams stay apart as long as there is anything to point at: each can be chosen. */
const SMALLEST_PX = [16, 22, 9];
/** A stream without work in this cycle stays one to be chosen, as long as all such take half of the width at most. */
const QUIET_STREAM_PX = 92;
const SHARE_OF_QUIET = 0.5;

/**
 * The process map as three rows, each block as wide as its work: its turns, and a little for each node below so that a branch
 * without turns keeps its place. Blocks too small to see are joined with their neighbours; a chosen branch is as wide as the names in it
 * need. What lies deeper is a row of its own over the whole width. Cost O(nodes).
 */
export function layOutStrip(nodes: readonly StripNode[], widthPx: number, path: readonly string[] = []): StripBlock[][] {
  const weights = widenChosen(nodes, widenQuiet(nodes, weigh(nodes), widthPx), { widthPx, path });
  const lefts = place(nodes, weights);
  const total = sumAtTop(nodes, weights) || 1;
  const rows: StripBlock[][] = [];
  // What lies in places that were joined is joined with its neighbours there.
  let under = new Map<string | null, string>();
  for (let depth = 0; depth < ROWS; depth += 1) {
    const blocks = nodes.flatMap((node, i) =>
      node.depth === depth ? [toBlock(nodes, node, { left: (lefts[i] ?? 0) / total, width: (weights[i] ?? 0) / total })] : [],
    );
    const groups = groupSmall(blocks, (SMALLEST_PX[depth] ?? SMALLEST_PX[1]!) / widthPx, under);
    rows.push(groups.map((members) => joinBlocks(members, nodes)));
    under = new Map(groups.flatMap((members) => members.map(({ code }) => [code, members[0]?.key ?? ''])));
  }
  const unfolded = layOutUnfolded(nodes, weights, widthPx);
  return unfolded.length > 0 ? [...rows, unfolded] : rows;
}

function toBlock(nodes: readonly StripNode[], node: StripNode, at: { readonly left: number; readonly width: number }): StripBlock {
  const { code, name, depth, counts } = node;
  return { ...{ key: code, code, name, depth, counts, ...at }, parent: nodes[node.parent]?.code ?? null };
}

function layOutUnfolded(nodes: readonly StripNode[], weights: readonly number[], widthPx: number): StripBlock[] {
  const deep = nodes.flatMap((node, i) => (node.depth >= ROWS ? [{ node, weight: weights[i] ?? 0 }] : []));
  const total = deep.reduce((sum, { weight }) => sum + weight, 0) || 1;
  let left = 0;
  const blocks = deep.map(({ node, weight }) => {
    const block = toBlock(nodes, node, { left: left / total, width: weight / total });
    left += weight;
    return block;
  });
  return groupSmall(blocks, SMALLEST_PX[1]! / widthPx).map((members) => joinBlocks(members, nodes));
}

const sumAtTop = (nodes: readonly StripNode[], of: readonly number[]) =>
  nodes.reduce((sum, node, i) => (node.parent < 0 ? sum + (of[i] ?? 0) : sum), 0);

function weigh(nodes: readonly StripNode[]): number[] {
  const weights = nodes.map((node) => sumCounts(node.counts));
  const leaves = nodes.map((node) => node.leaves);
  const turns = sumAtTop(nodes, weights);
  const share = turns === 0 ? 1 : Math.min(1, (SHARE_OF_PLACES * turns) / sumAtTop(nodes, leaves));
  return weights.map((weight, i) => weight + share * (leaves[i] ?? 0));
}

/** Names narrower than this cannot be told apart; unfolded, they get so much. */
const [CRAMPED_PX, READABLE_PX] = [40, 84];
const SHARE_OF_CHOSEN = 0.75;

/** Level by level along the way to what is chosen: where the names in it are cramped, it grows, and what is beside it gives way. */
function widenChosen(
  nodes: readonly StripNode[],
  weights: readonly number[],
  { widthPx, path }: { readonly widthPx: number; readonly path: readonly string[] },
): number[] {
  let widened = [...weights];
  const total = sumAtTop(nodes, weights) || 1;
  let parent = -1;
  for (const code of path.slice(0, ROWS - 1)) {
    const chosen = nodes.findIndex((node) => node.code === code);
    const siblings = nodes.flatMap((node, i) => (node.parent === parent ? [i] : []));
    const all = siblings.reduce((sum, i) => sum + (widened[i] ?? 0), 0);
    const own = widened[chosen] ?? 0;
    const inside = nodes.filter((node) => node.parent === chosen && node.depth < ROWS).length;
    const goal = Math.min(SHARE_OF_CHOSEN * all, ((inside * READABLE_PX) / widthPx) * total);
    if (chosen < 0 || own <= 0 || all <= own) return widened;
    if ((own / total) * widthPx < inside * CRAMPED_PX && goal > own) {
      const [more, less] = [goal / own, (all - goal) / (all - own)];
      widened = scaleBranches(nodes, widened, (i) => (i === chosen ? more : siblings.includes(i) ? less : undefined));
    }
    parent = chosen;
  }
  return widened;
}

/** Branches by factors; what lies in a branch grows and shrinks with it. */
function scaleBranches(nodes: readonly StripNode[], weights: readonly number[], factorOf: (i: number) => number | undefined): number[] {
  const factors: number[] = [];
  nodes.forEach((node, i) => (factors[i] = factorOf(i) ?? factors[node.parent] ?? 1));
  return weights.map((weight, i) => weight * (factors[i] ?? 1));
}

/** Streams narrower than can be read take what they need from the wide ones; what lies in a stream grows and shrinks with it. */
function widenQuiet(nodes: readonly StripNode[], weights: readonly number[], widthPx: number): number[] {
  const streams = nodes.flatMap((node, i) => (node.parent < 0 ? [i] : []));
  const total = streams.reduce((sum, i) => sum + (weights[i] ?? 0), 0);
  const smallest = total * Math.min(QUIET_STREAM_PX / widthPx, SHARE_OF_QUIET / streams.length);
  const own = (i: number) => weights[i] ?? 0;
  const quiet = streams.filter((i) => own(i) < smallest);
  const wide = total - quiet.reduce((sum, i) => sum + own(i), 0);
  const left = wide === 0 ? 1 : (total - quiet.length * smallest) / wide;
  return scaleBranches(nodes, weights, (i) =>
    (nodes[i]?.parent ?? -1) >= 0 ? undefined : own(i) < smallest && own(i) > 0 ? smallest / own(i) : left,
  );
}

/** Children stand one after the other from their parent's left edge. */
function place(nodes: readonly StripNode[], weights: readonly number[]): number[] {
  const next = new Map<number, number>();
  return nodes.map((node, i) => {
    const left = next.get(node.parent) ?? 0;
    next.set(node.parent, left + (weights[i] ?? 0));
    next.set(i, left);
    return left;
  });
}

/** Neighbours that are too small alone, together; never of different places, unless those were joined themselves (`under`: by what). */
function groupSmall(
  blocks: readonly StripBlock[],
  smallest: number,
  under: ReadonlyMap<string | null, string> = new Map(),
): StripBlock[][] {
  const groups: StripBlock[][] = [];
  const toPlace = ({ parent }: StripBlock) => under.get(parent) ?? parent;
  let width = 0;
  for (const block of blocks) {
    const members = groups.at(-1);
    const [first] = members ?? [];
    if (!members || !first || toPlace(first) !== toPlace(block) || width >= smallest || block.width >= smallest) {
      groups.push([block]);
      width = 0;
    } else members.push(block);
    width += block.width;
  }
  return groups;
}

/** One block of several; it leads to what all of them lie in. */
function joinBlocks(members: readonly StripBlock[], nodes: readonly StripNode[]): StripBlock {
  const [first] = members;
  if (!first) throw new Error('There is nothing to join.');
  if (members.length === 1) return first;
  const names = members.slice(0, 6).map((member) => member.name);
  const isOnePlace = members.every(({ parent }) => parent === first.parent);
  return {
    ...first,
    key: `${first.key}+${members.length}`,
    code: null,
    name: `${members.length} together: ${names.join(', ')}${members.length > names.length ? ' …' : ''}`,
    parent: isOnePlace ? first.parent : (nodes[nodes.find(({ code }) => code === first.parent)?.parent ?? -1]?.code ?? null),
    width: members.reduce((sum, member) => sum + member.width, 0),
    counts: members.reduce((sum, member) => addCounts(sum, member.counts), NO_COUNTS),
  };
}
