import type { Counts } from './tally.ts';
import { NO_COUNTS } from './tally.ts';
import { TURN_STATUSES } from '../outcomes.ts';

/** A node of the map as the strip draws it. */
export interface StripNode {
  readonly code: string;
  readonly name: string;
  /** The place of what it lies in, before its own; −1 at the top. */
  readonly parent: number;
  readonly depth: number;
  /** Turns in its branch, by status. */
  readonly counts: Counts;
  /** How many nodes without others below them its branch has; it is one itself where it has none below. */
  readonly leaves: number;
}

/** The nodes of a strip by columns, a line for each node: a tenth of what they are as objects (decision 0038). */
export interface StripColumns {
  readonly codes: string;
  readonly names: string;
  readonly parents: string;
  readonly depths: string;
  readonly leaves: string;
  /** The statuses that there are, by their places in TURN_STATUSES: “0:12 3:4”. */
  readonly counts: string;
}

/** Cost O(nodes). */
export function packStrip(nodes: readonly StripNode[]): StripColumns {
  const lines = (print: (node: StripNode) => string | number) => nodes.map(print).join('\n');
  return {
    codes: lines(({ code }) => code),
    names: lines(({ name }) => name.replaceAll('\n', ' ')),
    parents: lines(({ parent }) => parent),
    depths: lines(({ depth }) => depth),
    leaves: lines(({ leaves }) => leaves),
    counts: lines(({ counts }) => TURN_STATUSES.flatMap((status, at) => (counts[status] > 0 ? [`${at}:${counts[status]}`] : [])).join(' ')),
  };
}

/** What packStrip was given. Cost O(nodes). */
export function unpackStrip(columns: StripColumns): StripNode[] {
  if (columns.codes === '') return [];
  const names = columns.names.split('\n');
  const counts = columns.counts.split('\n');
  const numbers = (text: string) => text.split('\n').map(Number);
  const [parents, depths, leaves] = [numbers(columns.parents), numbers(columns.depths), numbers(columns.leaves)];
  return columns.codes.split('\n').map((code, at) => ({
    ...{ code, name: names[at] ?? '', parent: parents[at] ?? -1, depth: depths[at] ?? 0, leaves: leaves[at] ?? 1 },
    counts: readCounts(counts[at] ?? ''),
  }));
}

function readCounts(text: string): Counts {
  if (text === '') return NO_COUNTS;
  const counts = { ...NO_COUNTS };
  for (const part of text.split(' ')) {
    const status = TURN_STATUSES[Number(part.slice(0, part.indexOf(':')))];
    if (status !== undefined) counts[status] = Number(part.slice(part.indexOf(':') + 1));
  }
  return counts;
}
