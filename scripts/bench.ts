/**
 * npm run bench: speed and size as ratios to a plain reference in the same run, since machines differ and are noisy.
 * Prints each figure beside its bound and says which is missed; with words, only those; with --size big, those of a big rollout (minutes to lay). Needs DATABASE_URL of a store with the demo (bench.mjs gives it).
 */
import { readFileSync, readdirSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { gzipSync } from 'node:zlib';
import type { Facet, TurnSheet } from '@kindred-baton/core/progress/tally';
import { changeTurnStatus, codeFacet, recountTally, STATUS_COUNT, tallyTurns } from '@kindred-baton/core/progress/tally';
import { wireChain } from '@kindred-baton/core/scenarios/wire-chain';
import { createRandom } from '@kindred-baton/core/values/fresh';
import { getActor } from '@kindred-baton/store/actor';
import { createStore } from '@kindred-baton/store/database';
import { ask } from '@kindred-baton/store/operation';
import { progressQuerySchema } from '@kindred-baton/contracts/progress/progress';
import { getProgress } from '@kindred-baton/store/progress/get-progress';
import { getViewer } from '@kindred-baton/store/programmes/get-viewer';
import { getStrip } from '@kindred-baton/store/map/get-strip';
import { people } from '@kindred-baton/store/schema/people';
import { eq } from 'drizzle-orm';
import type { Figure } from './bench-figure.ts';
import { median } from './bench-figure.ts';
import { benchLibrary } from './bench-library.ts';
import { benchQueue } from './bench-queue.ts';
import { benchRound } from './bench-round.ts';
import { benchRunner } from './bench-runner.ts';
import { benchBoard } from './bench-board.ts';
import { benchExtracts } from './bench-extracts.ts';
import { benchForecast } from './bench-forecast.ts';
import { benchScenarios } from './bench-scenarios.ts';
import { benchSize } from './bench-size.ts';

function time(run: () => unknown, rounds = 31): number {
  for (let i = 0; i < 20; i += 1) run();
  return median(
    Array.from({ length: rounds }, () => {
      const start = performance.now();
      run();
      return performance.now() - start;
    }),
  );
}

const TURNS = 200_000;
const NODES = 5_000;
const LEGS = 10;
const ROWS = 20;

/** Turns as the store gives them: run by run, leg by leg; the runs of a scenario's data rows pass the same activities. */
function createTurns() {
  const random = createRandom(4_217);
  const below = (size: number) => Math.floor(random() * size);
  const facet = (size: number) => ({
    codes: Int32Array.from({ length: TURNS }, () => below(size)),
    values: Array.from({ length: size }, (_, i) => `v${i}`),
  });
  const starts = Array.from({ length: TURNS / LEGS / ROWS }, () => below(NODES - 40));
  const node = Int32Array.from({ length: TURNS }, (_, i) => (starts[Math.floor(i / LEGS / ROWS)] ?? 0) + (i % LEGS) * 3);
  const parents = Int32Array.from({ length: NODES }, (_, i) => (i === 0 ? -1 : Math.floor((i - 1) / 8)));
  return {
    sheet: { size: TURNS, status: Uint8Array.from({ length: TURNS }, () => below(STATUS_COUNT)), node, parents },
    facets: { rows: facet(40), columns: facet(8) },
    random,
  };
}

/** The reference: one pass that reads all four columns, written as the tally is, with its arrays from parameters. */
function passOver({ status, node, size }: TurnSheet, { rows, columns }: { rows: Facet; columns: Facet }): number {
  const [row, column] = [rows.codes, columns.codes];
  let sum = 0;
  for (let i = 0; i < size; i += 1) sum += status[i]! + node[i]! + row[i]! + column[i]!;
  return sum;
}

function benchTally(): Figure[] {
  const { sheet, facets, random } = createTurns();
  const tally = tallyTurns(sheet, facets);
  // Turn about, so that a slow moment of the machine meets both.
  const pairs = Array.from({ length: 7 }, () => [time(() => passOver(sheet, facets), 11), time(() => recountTally(tally), 11)] as const);
  const bare = median(pairs.map(([pass]) => pass));
  const whole = median(pairs.map(([, tallied]) => tallied));
  const ratio = median(pairs.map(([pass, tallied]) => tallied / pass));
  const shuffled = { ...sheet, node: Int32Array.from({ length: TURNS }, () => Math.floor(random() * NODES)) };
  const scattered = time(() => tallyTurns(shuffled, facets));
  let turn = 0;
  const thousand = time(() => {
    for (let i = 0; i < 1_000; i += 1) changeTurnStatus(tally, (turn = (turn + 7_919) % TURNS), i % 2 === 0 ? 'passed' : 'failed');
  });
  const coding = time(() => codeFacet(Array.from({ length: TURNS }, (_, i) => `v${i % 40}`)), 5);
  const note = `${whole.toFixed(2)} ms against ${bare.toFixed(2)} ms; into new arrays, with turns in no order at all: ${(scattered / bare).toFixed(1)} ×; coding a facet once, on loading: ${coding.toFixed(0)} ms`;
  return [
    {
      name: 'Tally of 200,000 turns over two facets and 5,000 nodes',
      value: ratio,
      bound: 3,
      unit: '× one bare pass over the same columns',
      note,
    },
    {
      name: 'One changed turn',
      value: thousand / 1_000 / whole,
      bound: 1 / 1_000,
      unit: '× the tally from scratch',
      note: `${thousand.toFixed(3)} µs`,
    },
  ];
}

function benchWiring(): Figure[] {
  const field = (name: string) => ({ name, type: 'text' as const, required: true });
  const legs = Array.from({ length: 200 }, (_, i) => ({
    ...{ id: String(i), title: `Leg ${i}`, isOpen: false },
    needs: Array.from({ length: 10 }, (__, n) => field(`value ${(i * 7 + n) % 300}`)),
    gives: Array.from({ length: 10 }, (__, n) => field(`value ${(i * 10 + n) % 300}`)),
  }));
  const ms = time(() => wireChain(legs));
  return [{ name: 'Wiring of a 200-leg scenario (10 needs and 10 outputs a leg)', value: ms, bound: 10, unit: 'ms', note: '' }];
}

async function benchProgress(): Promise<Figure[]> {
  const timings: number[] = [];
  const store = createStore({ url: process.env['DATABASE_URL'] ?? '' });
  const query = store.pool.query.bind(store.pool) as (...args: unknown[]) => Promise<unknown>;
  const [lea] = await store.db.select({ id: people.id }).from(people).where(eq(people.name, 'Lea Marsh'));
  if (!lea) throw new Error('The bench needs the demo.');
  const actor = await getActor(store, lea.id, 'brindlemere');
  const ratios: number[] = [];
  const pages: number[] = [];
  const slowest: number[] = [];
  for (let round = 0; round < 25; round += 1) {
    const start = performance.now();
    await Promise.all([
      ask(store, actor, getViewer, undefined),
      ask(store, actor, getStrip, {}),
      ask(store, actor, getProgress, progressQuerySchema.parse({})),
    ]);
    pages.push(performance.now() - start);
    timings.length = 0;
    store.pool.query = (async (...args: unknown[]) => {
      const began = performance.now();
      const answer = await query(...args);
      timings.push(performance.now() - began);
      return answer;
    }) as typeof store.pool.query;
    for (const each of [() => ask(store, actor, getStrip, {}), () => ask(store, actor, getProgress, progressQuerySchema.parse({}))])
      await each();
    store.pool.query = query as typeof store.pool.query;
    slowest.push(Math.max(...timings));
  }
  ratios.push(median(pages.slice(5)) / median(slowest.slice(5)));
  await store.pool.end();
  return [
    {
      name: 'Progress page of the demo: all its questions',
      value: median(ratios),
      bound: 5,
      unit: '× its slowest query',
      note: `${median(pages).toFixed(1)} ms against ${median(slowest).toFixed(1)} ms`,
    },
  ];
}

const CLIENT = fileURLToPath(new URL('../apps/web/dist/client/_astro/', import.meta.url));

/** All scripts that a page's island needs, followed through their static imports. */
function benchScripts(): Figure[] {
  const files = readdirSync(CLIENT).filter((file) => file.endsWith('.js'));
  const importsOf = (file: string) =>
    [...readFileSync(path.join(CLIENT, file), 'utf8').matchAll(/(?:from|import)\s*["']\.\/([^"']+\.js)["']/g)].map(
      (match) => match[1] ?? '',
    );
  const collect = (file: string, seen = new Set<string>()): Set<string> => {
    if (seen.has(file)) return seen;
    seen.add(file);
    importsOf(file).forEach((next) => collect(next, seen));
    return seen;
  };
  const client = files.filter((file) => file.startsWith('client.'));
  const pages = files
    .filter((file) => /-app\./.test(file))
    .map((file) => ({
      file,
      kB:
        [...new Set([file, ...client].flatMap((start) => [...collect(start)]))].reduce(
          (sum, each) => sum + gzipSync(readFileSync(path.join(CLIENT, each))).length,
          0,
        ) / 1_000,
    }));
  const largest = pages.reduce((a, b) => (a.kB > b.kB ? a : b));
  return [
    {
      name: `JavaScript of the heaviest page (${largest.file.split('.')[0]})`,
      value: largest.kB,
      bound: 180,
      unit: 'kB compressed',
      note: `the lightest: ${Math.min(...pages.map(({ kB }) => kB)).toFixed(0)} kB`,
    },
  ];
}

async function benchStore(): Promise<Figure[]> {
  const store = createStore({ url: process.env['DATABASE_URL'] ?? '' });
  const figures = await benchLibrary(store);
  await store.pool.end();
  return figures;
}

const DATABASE_URL = process.env['DATABASE_URL'] ?? '';

/** By the word that asks for it alone: npm run bench -- runner. */
const GROUPS: Readonly<Record<string, () => Figure[] | Promise<Figure[]>>> = {
  tally: benchTally,
  wiring: benchWiring,
  progress: benchProgress,
  scripts: benchScripts,
  forecast: benchForecast,
  scenarios: benchScenarios,
  library: benchStore,
  round: () => benchRound(DATABASE_URL),
  runner: () => benchRunner(DATABASE_URL),
  queue: () => benchQueue(DATABASE_URL),
  board: () => benchBoard(DATABASE_URL),
  extracts: () => benchExtracts(DATABASE_URL),
};

const asked = process.argv.slice(2).join(' ').replace('--size big', '').split(' ').filter(Boolean);
const isAtSize = process.argv.join(' ').includes('--size big');
const unknown = asked.filter((name) => !(name in GROUPS));
if (unknown.length > 0)
  throw new Error(`There is no figure “${unknown[0]}”. Ask for ${Object.keys(GROUPS).join(', ')}, for --size big, or for all with none.`);
const figures: Figure[] = [];
for (const [name, bench] of Object.entries(GROUPS))
  if ((asked.length === 0 && !isAtSize) || asked.includes(name)) figures.push(...(await bench()));
if (isAtSize) figures.push(...(await benchSize(DATABASE_URL)));
for (const { name, value, bound, unit, note } of figures) {
  const shown = value < 0.01 ? value.toExponential(2) : value.toFixed(2);
  process.stdout.write(
    `${value <= bound ? 'kept  ' : 'MISSED'}  ${name}: ${shown} ${unit} (at most ${bound < 0.01 ? bound.toExponential(0) : bound})${note ? `; ${note}` : ''}\n`,
  );
}
