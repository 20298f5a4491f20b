import type { StripNode } from '@kindred-baton/core/progress/strip';
import { NO_COUNTS, sumCounts } from '@kindred-baton/core/progress/tally';
import { describe, expect, it } from 'vitest';
import { layOutStrip } from './lay-out-strip.ts';
import { walkStrip } from './walk-strip.ts';

const node = (code: string, parent: number, depth: number, passed: number): StripNode => ({
  code,
  name: code,
  parent,
  depth,
  counts: { ...NO_COUNTS, passed },
  leaves: 1,
});

/** The leaves of each branch are counted, as the server does. */
function lay(nodes: readonly StripNode[], widthPx: number, path?: readonly string[]) {
  const leaves = nodes.map(() => 0);
  nodes.forEach((_, at) => {
    if (nodes.some(({ parent }) => parent === at)) return;
    for (let over = at; over >= 0; over = nodes[over]!.parent) leaves[over]! += 1;
  });
  return layOutStrip(
    nodes.map((one, at) => ({ ...one, leaves: leaves[at]! })),
    widthPx,
    path,
  );
}

/** 5 streams of 10 processes of 100 activities: 5,055 nodes. */
function createLargeMap(): StripNode[] {
  const nodes: StripNode[] = [];
  for (let s = 0; s < 5; s += 1) {
    const stream = nodes.push(node(`S${s}`, -1, 0, 10_000)) - 1;
    for (let p = 0; p < 10; p += 1) {
      const process = nodes.push(node(`S${s}-${p}`, stream, 1, 1_000)) - 1;
      for (let a = 0; a < 100; a += 1) nodes.push(node(`S${s}-${p}.${a}`, process, 2, 10));
    }
  }
  return nodes;
}

describe('the strip', () => {
  it('makes each block as wide as its work, children within their parents', () => {
    const nodes = [node('A', -1, 0, 30), node('A1', 0, 1, 10), node('A2', 0, 1, 20), node('B', -1, 0, 10)];
    const [streams = [], processes = []] = lay(nodes, 1_240);
    expect(streams.map(({ code }) => code)).toEqual(['A', 'B']);
    expect(streams.reduce((sum, { width }) => sum + width, 0)).toBeCloseTo(1);
    expect(processes[1]?.left).toBeCloseTo((processes[0]?.left ?? 0) + (processes[0]?.width ?? 0));
    expect((processes[1]?.left ?? 0) + (processes[1]?.width ?? 0)).toBeLessThanOrEqual((streams[0]?.width ?? 0) + 1e-9);
  });

  it('keeps a place for a branch without turns', () => {
    const [streams = []] = lay([node('A', -1, 0, 500), node('B', -1, 0, 0)], 1_240);
    expect(streams.at(-1)?.width).toBeGreaterThan(0);
  });

  it('keeps streams without work wide enough to be chosen, when one stream has it all', () => {
    const quiet = ['B', 'C', 'D', 'E'].map((code) => node(code, -1, 0, 0));
    const [streams = []] = lay([node('A', -1, 0, 40), ...quiet], 1_240);
    expect(streams.map(({ code }) => code)).toEqual(['A', 'B', 'C', 'D', 'E']);
    expect(streams.reduce((sum, { width }) => sum + width, 0)).toBeCloseTo(1);
    expect(streams[0]?.width).toBeGreaterThan(0.5);
  });

  it('does not let thousands of places without turns crowd the work out', () => {
    const idle = Array.from({ length: 2_000 }, (_, i) => node(`I${i}`, 1, 1, 0));
    const [streams = []] = lay([node('A', -1, 0, 100), node('B', -1, 0, 0), ...idle], 1_240);
    expect(streams.find(({ code }) => code === 'A')?.width).toBeGreaterThan(0.85);
  });

  it('joins blocks too small to see, and loses no turn, with 5,000 nodes', () => {
    const nodes = createLargeMap();
    const rows = lay(nodes, 1_240);
    const [streams = [], , activities = []] = rows;
    expect(activities.length).toBeLessThan(250);
    expect(Math.min(...activities.map(({ width }) => width * 1_240))).toBeGreaterThan(4);
    expect(activities.reduce((sum, { counts }) => sum + sumCounts(counts), 0)).toBe(50_000);
    expect(activities.some(({ code, name }) => code === null && /together: S0-0\.0/.test(name))).toBe(true);
    expect(streams).toHaveLength(5);
  });

  it('lets the names of the chosen branch be told apart among 15 streams, level by level, and loses no turn', () => {
    const nodes: StripNode[] = [];
    for (let s = 0; s < 15; s += 1) {
      const stream = nodes.push(node(`S${s}`, -1, 0, 720)) - 1;
      for (let p = 0; p < 12; p += 1) {
        const process = nodes.push(node(`S${s}-${p}`, stream, 1, 60)) - 1;
        for (let a = 0; a < 5; a += 1) nodes.push(node(`S${s}-${p}.${a}`, process, 2, 12));
      }
    }
    const widthOf = (rows: ReturnType<typeof layOutStrip>, code: string) =>
      (rows.flat().find((block) => block.code === code)?.width ?? 0) * 1_240;
    const plain = lay(nodes, 1_240);
    expect(widthOf(plain, 'S3-5')).toBe(0);
    const chosen = lay(nodes, 1_240, ['S3']);
    expect(widthOf(chosen, 'S3-5')).toBeGreaterThan(60);
    const deeper = lay(nodes, 1_240, ['S3', 'S3-5']);
    expect(widthOf(deeper, 'S3-5.2')).toBeGreaterThan(60);
    for (const rows of [plain, chosen, deeper])
      for (const row of rows) {
        expect(row.reduce((sum, { width }) => sum + width, 0)).toBeCloseTo(1);
        expect(row.reduce((sum, { counts }) => sum + sumCounts(counts), 0)).toBe(15 * 720);
      }
  });

  it('gives what lies below three levels a row over the whole width, which the arrow keys reach', () => {
    const nodes = [node('A', -1, 0, 30), node('A1', 0, 1, 30), node('A1.1', 1, 2, 10), node('A1.2', 1, 2, 20)];
    const deep = [node('A1.2.1', 3, 3, 5), node('A1.2.2', 3, 3, 15)];
    const rows = lay([...nodes, ...deep], 1_240, ['A', 'A1', 'A1.2']);
    expect(rows).toHaveLength(4);
    expect(rows[3]?.map(({ code, left, width }) => [code, Math.round(left * 100), Math.round(width * 100)])).toEqual([
      ['A1.2.1', 0, 27],
      ['A1.2.2', 27, 73],
    ]);
    expect([walkStrip(rows, 'A1.2', 'ArrowDown'), walkStrip(rows, 'A1.2.2', 'ArrowUp')]).toEqual(['A1.2.1', 'A1.2']);
  });

  it('is empty without nodes', () => expect(lay([], 1_240)).toEqual([[], [], []]));

  it('is walked by the arrow keys: along a row, up to what a block lies in, down to what lies in it', () => {
    const rows = lay([node('A', -1, 0, 30), node('A1', 0, 1, 10), node('A2', 0, 1, 20), node('B', -1, 0, 10), node('B1', 3, 1, 10)], 1_240);
    expect(walkStrip(rows, null, 'ArrowRight')).toBe('A');
    expect([walkStrip(rows, 'A', 'ArrowRight'), walkStrip(rows, 'B', 'ArrowRight'), walkStrip(rows, 'A', 'ArrowLeft')]).toEqual([
      'B',
      'B',
      'A',
    ]);
    expect([walkStrip(rows, 'B', 'ArrowDown'), walkStrip(rows, 'A2', 'ArrowUp'), walkStrip(rows, 'A2', 'ArrowRight')]).toEqual([
      'B1',
      'A',
      'B1',
    ]);
    expect([walkStrip(rows, 'A', 'ArrowUp'), walkStrip(rows, 'B1', 'ArrowDown'), walkStrip(rows, 'A', 'x')]).toEqual([null, null, null]);
    expect([walkStrip(rows, 'A', 'End'), walkStrip(rows, 'B1', 'Home')]).toEqual(['B', 'A1']);
  });
});
