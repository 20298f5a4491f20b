/** The figures of scenarios: wiring while dragging, chain finder, covering rows beside the best general-purpose package, overlap. */
import { createRequire } from 'node:module';
import type * as Covertable from 'covertable';
import { coverRows } from '@kindred-baton/core/rows/cover-rows';
import type { RowModel } from '@kindred-baton/core/rows/row-model';
import { createChainLibrary } from '@kindred-baton/core/scenarios/chain-library';
import { findChain } from '@kindred-baton/core/scenarios/find-chain';
import { findOverlaps } from '@kindred-baton/core/scenarios/find-overlaps';
import { createRandom } from '@kindred-baton/core/values/fresh';
import type { Figure } from './bench-figure.ts';
import { median } from './bench-figure.ts';

/** It ships as one script without named exports that Node could see. */
const { make } = createRequire(import.meta.url)('covertable') as typeof Covertable;

function timeOf<Answer>(run: () => Answer): { readonly ms: number; readonly answer: Answer } {
  const start = performance.now();
  const answer = run();
  return { ms: performance.now() - start, answer };
}

const TESTS = 20_000;

/** A library in which everything can reach far back: two or three needs a test, each from some earlier one. */
function createTests() {
  const random = createRandom(4_217);
  const field = (number: number) => ({ name: `Value ${number}`, type: 'text' as const, required: true });
  return Array.from({ length: TESTS }, (_, i) => ({
    ...{ code: `T-${i}`, name: `Test ${i}`, minutes: 5 + Math.floor(random() * 40), ownValues: {} },
    needs: Array.from({ length: i < 50 ? 0 : 1 + Math.floor(random() * 3) }, () => field(Math.floor((random() * i) / 3))),
    gives: [field(Math.floor(i / 3)), field(Math.floor(i / 3 + random() * 20))],
  }));
}

function benchFinder(): Figure {
  const tests = createTests();
  const rounds = Array.from({ length: 9 }, (_, i) =>
    timeOf(() => findChain(createChainLibrary(tests), { kind: 'test', code: `T-${TESTS - 1 - i}` })),
  );
  const ms = rounds.map((round) => round.ms);
  const legs = rounds.map(({ answer }) => answer?.legs.length ?? 0);
  return {
    ...{ name: 'Chain finder in a library of 20,000 tests', value: median(ms), bound: 300, unit: 'ms' },
    note: `slowest ${Math.max(...ms).toFixed(0)} ms; chains of ${Math.min(...legs)} to ${Math.max(...legs)} tests`,
  };
}

function benchOverlaps(): Figure {
  const random = createRandom(4_217);
  const scenarios = Array.from({ length: 2_000 }, (_, i) => {
    const start = Math.floor(random() * 300);
    return {
      code: `S-${i}`,
      tests: Array.from({ length: 4 + Math.floor(random() * 16) }, (__, leg) => `T-${(start + leg + (random() < 0.1 ? 7 : 0)) % 320}`),
    };
  });
  const { ms, answer } = timeOf(() => findOverlaps(scenarios));
  return {
    ...{ name: 'Overlap of 2,000 scenarios', value: ms, bound: 2_000, unit: 'ms' },
    note: `${answer.contained.length} within another, ${answer.stretches.length} shared stretches`,
  };
}

interface Mix {
  readonly name: string;
  readonly sizes: readonly number[];
  readonly strength: 2 | 3;
}

/** Columns of 2 to `most` classes, seeded. */
function mixed(columns: number, most: number, seed: number): number[] {
  const random = createRandom(seed);
  return Array.from({ length: columns }, () => 2 + Math.floor(random() * (most - 1)));
}

const MIXES: readonly Mix[] = [
  { name: 'pairs of 20 columns of 2 to 10 classes', sizes: mixed(20, 10, 1), strength: 2 },
  { name: 'pairs of 30 columns of 2 to 10 classes', sizes: mixed(30, 10, 2), strength: 2 },
  { name: 'triples of 20 columns of 2 to 4 classes', sizes: mixed(20, 4, 1), strength: 3 },
];

/** The package takes minutes for each of these: with --long. */
const LONG_MIXES: readonly Mix[] = [
  { name: 'pairs of 50 columns of 2 to 10 classes', sizes: mixed(50, 10, 2), strength: 2 },
  { name: 'pairs of 100 columns of 2 or 3 classes', sizes: mixed(100, 3, 3), strength: 2 },
  { name: 'triples of 20 columns of 2 to 10 classes', sizes: mixed(20, 10, 1), strength: 3 },
];

const toModel = ({ sizes, strength }: Omit<Mix, 'name'>): RowModel => ({
  ...{ strength, sizes, forbidden: [] },
  isInvalid: sizes.map((size) => Array.from({ length: size }, () => false)),
});

function makeOurs(mix: Omit<Mix, 'name'>): number {
  const work = coverRows(toModel(mix), { seed: 1 });
  for (;;) {
    const step = work.next();
    if (step.done) return step.value.rows.length;
  }
}

function makeTheirs({ sizes, strength }: Mix): number {
  const columns = sizes.map((size, column) => Array.from({ length: size }, (_, value) => `${column}.${value}`));
  return make(columns, { length: strength }).length;
}

function benchCovering(): Figure[] {
  const known = [
    { name: 'Covering rows of 3⁴', mix: { sizes: [3, 3, 3, 3], strength: 2 as const }, bound: 9 },
    { name: 'Covering rows of 3¹³', mix: { sizes: Array.from({ length: 13 }, () => 3), strength: 2 as const }, bound: 19 },
  ].map(({ name, mix, bound }): Figure => ({ name, value: makeOurs(mix), bound, unit: 'rows', note: '' }));
  const mixes = process.argv.includes('--long') ? [...MIXES, ...LONG_MIXES] : MIXES;
  const compared = mixes.flatMap((mix): Figure[] => {
    const [ours, theirs] = [timeOf(() => makeOurs(mix)), timeOf(() => makeTheirs(mix))];
    return [
      {
        ...{ name: `Rows for ${mix.name}`, value: ours.answer / theirs.answer, bound: 1.1, unit: '× the rows of covertable 2.5.2' },
        note: `${ours.answer} against ${theirs.answer}`,
      },
      {
        ...{ name: `Time for ${mix.name}`, value: ours.ms / theirs.ms, bound: 0.1, unit: '× the time of covertable 2.5.2' },
        note: `${ours.ms.toFixed(0)} ms against ${theirs.ms.toFixed(0)} ms`,
      },
    ];
  });
  return [...known, ...compared];
}

export function benchScenarios(): Figure[] {
  return [benchFinder(), benchOverlaps(), ...benchCovering()];
}
