import type { StripNode } from '@kindred-baton/contracts/programmes/programme';
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
const SMALLEST_PX = [46, 22, 9];
/** A stream without work in this cycle stays one to be chosen, as long as all such take half of the width at most. */
const QUIET_STREAM_PX = 92;
const SHARE_OF_QUIET = 0.5;

/**
 * The process map as three rows, each block as wide as its work: its turns, and a little for each node below so that a branch
 * without turns keeps its place. Blocks too small to see are joined with their neighbours. Cost O(nodes).
 */
export function layOutStrip(nodes: readonly StripNode[], widthPx: number): StripBlock[][] {
  const weights = widenQuiet(nodes, weigh(nodes), widthPx);
  const lefts = place(nodes, weights);
  const total = nodes.reduce((sum, node, i) => (node.parent < 0 ? sum + (weights[i] ?? 0) : sum), 0) || 1;
  return Array.from({ length: ROWS }, (_, depth) => {
    const blocks = nodes.flatMap((node, i): StripBlock[] =>
      node.depth === depth
        ? [
            {
              ...{ key: node.code, code: node.code, name: node.name, depth, counts: node.counts },
              parent: nodes[node.parent]?.code ?? null,
              left: (lefts[i] ?? 0) / total,
              width: (weights[i] ?? 0) / total,
            },
          ]
        : [],
    );
    return joinSmall(blocks, (SMALLEST_PX[depth] ?? 9) / widthPx);
  });
}

function weigh(nodes: readonly StripNode[]): number[] {
  const weights = nodes.map((node) => sumCounts(node.counts));
  const leaves = nodes.map(() => 0);
  for (let i = nodes.length - 1; i >= 0; i -= 1) {
    leaves[i] = leaves[i] || 1;
    const parent = nodes[i]?.parent ?? -1;
    if (parent >= 0) leaves[parent] = (leaves[parent] ?? 0) + (leaves[i] ?? 0);
  }
  const sumAtTop = (of: readonly number[]) => nodes.reduce((sum, node, i) => (node.parent < 0 ? sum + (of[i] ?? 0) : sum), 0);
  const turns = sumAtTop(weights);
  const share = turns === 0 ? 1 : Math.min(1, (SHARE_OF_PLACES * turns) / sumAtTop(leaves));
  return weights.map((weight, i) => weight + share * (leaves[i] ?? 0));
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
  const factors: number[] = [];
  nodes.forEach((node, i) => {
    factors[i] = node.parent >= 0 ? (factors[node.parent] ?? 1) : own(i) < smallest && own(i) > 0 ? smallest / own(i) : left;
  });
  return weights.map((weight, i) => weight * (factors[i] ?? 1));
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

function joinSmall(blocks: readonly StripBlock[], smallest: number): StripBlock[] {
  const joined: StripBlock[] = [];
  let members: StripBlock[] = [];
  const close = () => {
    const [first] = members;
    if (members.length === 1 && first) joined.push(first);
    else if (first) joined.push(joinBlocks(members, first));
    members = [];
  };
  for (const block of blocks) {
    const width = members.reduce((sum, member) => sum + member.width, 0);
    const isOtherParent = members[0] !== undefined && members[0].parent !== block.parent;
    if (members.length > 0 && (isOtherParent || width >= smallest || block.width >= smallest)) close();
    members.push(block);
  }
  close();
  return joined;
}

function joinBlocks(members: readonly StripBlock[], first: StripBlock): StripBlock {
  const names = members.slice(0, 6).map((member) => member.name);
  return {
    ...first,
    key: `${first.key}+${members.length}`,
    code: null,
    name: `${members.length} together: ${names.join(', ')}${members.length > names.length ? ' …' : ''}`,
    width: members.reduce((sum, member) => sum + member.width, 0),
    counts: members.reduce((sum, member) => addCounts(sum, member.counts), NO_COUNTS),
  };
}
