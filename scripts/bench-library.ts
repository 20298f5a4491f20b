/** The figures of the library: import, reading sentences, full-text search, clone detection. Each as a ratio within this run where it can be. */
import ExcelJS from 'exceljs';
import { sql } from 'drizzle-orm';
import { compareMap } from '@kindred-baton/core/imports/compare-map';
import { compareTests } from '@kindred-baton/core/imports/compare-tests';
import { DEFAULT_CODE_SCHEME } from '@kindred-baton/core/map/code-scheme';
import { findClones } from '@kindred-baton/core/tests/find-clones';
import { parseStep } from '@kindred-baton/core/tests/parse-step';
import { PLAIN_SENTENCES } from '@kindred-baton/core/tests/plain-sentences.test-data';
import { printStep } from '@kindred-baton/core/tests/print-step';
import { readPlainSentence } from '@kindred-baton/core/tests/read-plain-sentence';
import type { Step } from '@kindred-baton/core/tests/step';
import { createRandom } from '@kindred-baton/core/values/fresh';
import { readMapFile } from '@kindred-baton/formats/map/read-map-file';
import { writeXlsx } from '@kindred-baton/formats/tables/write-tables';
import { readTestFile } from '@kindred-baton/formats/tests/read-test-file';
import type { Store } from '@kindred-baton/store/database';
import { hasWords, toSearch } from '@kindred-baton/store/tests/list-tests';
import type { Figure } from './bench-figure.ts';
import { median } from './bench-figure.ts';

async function timeOnce(run: () => unknown): Promise<number> {
  const start = performance.now();
  await run();
  return performance.now() - start;
}

/** Turn about, so that a slow moment of the machine meets both. */
async function compareTimes(run: () => unknown, reference: () => unknown, rounds: number) {
  const pairs: (readonly [number, number])[] = [];
  await run();
  await reference();
  for (let round = 0; round < rounds; round += 1) pairs.push([await timeOnce(run), await timeOnce(reference)]);
  return { ratio: median(pairs.map(([a, b]) => a / b)), ms: median(pairs.map(([a]) => a)), referenceMs: median(pairs.map(([, b]) => b)) };
}

const ROWS = 50_000;

async function benchImports(): Promise<Figure[]> {
  const [sentences] = [PLAIN_SENTENCES.map(([sentence]) => sentence)];
  const list = await writeXlsx([
    {
      ...{ sheet: 'Tests', headings: ['Test', 'Name', 'Step', 'Expected'] },
      rows: Array.from({ length: ROWS }, (_, i) => [
        `T-${Math.floor(i / 10)}`,
        `Test ${Math.floor(i / 10)}`,
        sentences[i % sentences.length] ?? '',
        'It is there',
      ]),
    },
  ]);
  const map = await writeXlsx([
    {
      sheet: 'Processes',
      headings: ['Code', 'Name', 'Description'],
      rows: Array.from({ length: ROWS }, (_, i) => [toCode(i), `Process ${i}`, 'What it is for']),
    },
  ]);
  const around = { tests: [], nodes: [{ code: 'A', name: 'A', team: null, application: null }], teams: [], applications: [] };
  const mapAround = { nodes: [], levels: ['a', 'b', 'c', 'd'], scheme: DEFAULT_CODE_SCHEME, teams: [], applications: [], people: [] };
  const readBare = (bytes: Uint8Array) => new ExcelJS.Workbook().xlsx.load(Buffer.from(bytes) as unknown as ExcelJS.Buffer);
  const tests = await compareTimes(
    async () => compareTests((await readTestFile({ name: 'tests.xlsx', bytes: list })).entries, around, { activity: 'A' }),
    () => readBare(list),
    3,
  );
  const nodes = await compareTimes(
    async () => compareMap((await readMapFile({ name: 'map.xlsx', bytes: map }, {})).entries, mapAround, { below: null, addsNames: false }),
    () => readBare(map),
    3,
  );
  const toFigure = (name: string, { ratio, ms, referenceMs }: typeof tests): Figure => ({
    ...{ name, value: ratio, bound: 4, unit: '× a bare read of the same file by the same library' },
    note: `${(ms / 1_000).toFixed(1)} s against ${(referenceMs / 1_000).toFixed(1)} s`,
  });
  return [
    toFigure('Import of 50,000 rows of tests, with preview', tests),
    toFigure('Import of a process list of 50,000 rows, with preview', nodes),
  ];
}

/** 1.2.3: ten below each. */
const toCode = (i: number) =>
  [Math.floor(i / 1_000) + 1, (Math.floor(i / 100) % 10) + 1, (Math.floor(i / 10) % 10) + 1, (i % 10) + 1].join('.');

const SENTENCES = 100_000;

async function benchSentences(): Promise<Figure[]> {
  const plain = Array.from({ length: SENTENCES }, (_, i) => PLAIN_SENTENCES[i % PLAIN_SENTENCES.length]?.[0] ?? '');
  const uniform = plain.map((sentence) => printStep(readPlainSentence(sentence).steps[0] ?? { do: 'hand', target: sentence }));
  const split = (lines: readonly string[]) => () => lines.reduce((words, line) => words + line.split(/\s+/).length, 0);
  const read = (lines: readonly string[], one: (line: string) => unknown) => () => lines.forEach((line) => one(line));
  const toFigure = (name: string, { ratio, ms, referenceMs }: Awaited<ReturnType<typeof compareTimes>>): Figure => ({
    ...{ name, value: ratio, bound: 20, unit: '× splitting the same text into words' },
    note: `${ms.toFixed(0)} ms against ${referenceMs.toFixed(0)} ms`,
  });
  return [
    toFigure('Parsing 100,000 uniform sentences', await compareTimes(read(uniform, parseStep), split(uniform), 5)),
    toFigure('Reading 100,000 sentences of ordinary English', await compareTimes(read(plain, readPlainSentence), split(plain), 5)),
  ];
}

/** Tests whose steps are drawn from a vocabulary of screens, some of them beginning alike. */
function createLibrary(size: number) {
  const random = createRandom(size);
  const pick = (of: number) => Math.floor(random() * of);
  return Array.from({ length: size }, (_, test): { test: string; steps: Step[] } => {
    const opening = pick(200);
    return {
      test: `T-${test}`,
      steps: Array.from({ length: 8 + pick(10) }, (__, at) => ({
        do: 'press',
        target: at < 5 ? `Screen ${opening} thing ${at}` : `Thing ${pick(4_000)}`,
      })),
    };
  });
}

async function benchClones(): Promise<Figure[]> {
  const [small, large] = [createLibrary(5_000), createLibrary(20_000)];
  const { ratio, ms, referenceMs } = await compareTimes(
    () => findClones(large),
    () => findClones(small),
    5,
  );
  return [
    {
      ...{ name: 'Clone detection: 20,000 tests against 5,000 (four times as many)', value: ratio, bound: 8, unit: '× the time' },
      note: `${ms.toFixed(0)} ms against ${referenceMs.toFixed(0)} ms; ${findClones(large).length.toLocaleString('en')} clones`,
    },
  ];
}

const TESTS = 20_000;
const LABELS = [
  'quote',
  'meter',
  'invoice',
  'survey',
  'deposit',
  'crew',
  'valve',
  'reading',
  'tariff',
  'ledger',
  'stock',
  'order',
  'receipt',
  'permit',
];

/** In a transaction that is taken back: the store stays as it was. */
async function benchSearch(store: Store): Promise<Figure[]> {
  const takenBack = new Error('taken back');
  let figures: Figure[] = [];
  await store.db
    .transaction(async (db) => {
      await db.execute(sql`
        insert into tests (id, programme_id, code, name, node_id)
        select gen_random_uuid(), nodes.programme_id, 'BENCH-' || number, 'Test ' || number || ' ' || (${sql.param(LABELS)}::text[])[1 + number % 14], nodes.id
        from generate_series(1, ${TESTS}) as number, (select id, programme_id from nodes limit 1) as nodes`);
      await db.execute(sql`
        insert into test_versions (id, programme_id, test_id, number, steps, needs, gives)
        select gen_random_uuid(), tests.programme_id, tests.id, 1,
          (select jsonb_agg(jsonb_build_object('do', 'press', 'target', (${sql.param(LABELS)}::text[])[1 + (step * 7 + length(tests.code) + abs(hashtext(tests.code))) % 14] || ' ' || abs(hashtext(tests.code || step)) % 900))
           from generate_series(1, 10) as step), '[]', '[]'
        from tests where code like 'BENCH-%'`);
      await db.execute(sql`select gin_clean_pending_list('tests_search')`);
      await db.execute(sql`analyze tests`);
      const explain = async (words: string) => {
        const plan = await db.execute<{ 'QUERY PLAN': string }>(
          sql`explain (analyze, timing off) select code from tests where ${hasWords(toSearch(words) ?? '')}`,
        );
        const text = plan.rows.map((row) => row['QUERY PLAN']).join('\n');
        return {
          ms: Number(/Execution Time: ([\d.]+)/.exec(text)?.[1] ?? NaN),
          rows: Number(/actual rows=(\d+)/.exec(text)?.[1] ?? NaN),
          isByIndex: text.includes('tests_search'),
        };
      };
      const asked = [];
      for (const words of ['quote 417', 'invo 12', 'BENCH-19999', 'meter ledger 5', 'nothing like this']) {
        await explain(words);
        asked.push({ words, ...(await explain(words)) });
      }
      const slowest = asked.reduce((a, b) => (a.ms > b.ms ? a : b));
      figures = [
        {
          ...{ name: 'Full-text search of 20,000 tests, the slowest of five', value: slowest.ms, bound: 30, unit: 'ms in SQL' },
          note: `“${slowest.words}”, ${slowest.rows} found; by the index: ${asked.every(({ isByIndex }) => isByIndex) ? 'yes, all' : 'not all'}`,
        },
      ];
      throw takenBack;
    })
    .catch((error: unknown) => {
      if (error !== takenBack) throw error;
    });
  return figures;
}

export async function benchLibrary(store: Store): Promise<Figure[]> {
  return [...(await benchImports()), ...(await benchSentences()), ...(await benchClones()), ...(await benchSearch(store))];
}
