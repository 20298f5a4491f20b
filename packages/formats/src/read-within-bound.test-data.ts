/** Reads a large file where the heap is bounded (hostile-files.test.ts), and says how many rows came of it. */
import { readTestFile } from './tests/read-test-file.ts';
import { writeCsv, writeXlsx } from './tables/write-tables.ts';
import { writeBomb } from './workbook/hostile-files.test-data.ts';

const headings = ['Test', 'Name', 'Step', 'Expected'];
const makeRow = (i: number) => [
  `T-${Math.floor(i / 10)}`,
  `Test ${Math.floor(i / 10)}`,
  `Enter "value ${i}" in the field ${i % 40}`,
  'It is there',
];

const MAKERS: Readonly<Record<string, () => Promise<Uint8Array> | Uint8Array>> = {
  'workbook of 60,000 rows': () => writeXlsx([{ sheet: 'Tests', headings, rows: Array.from({ length: 59_999 }, (_, i) => makeRow(i)) }]),
  'CSV of 50 MB': () => {
    const rows = Array.from({ length: 59_999 }, (_, i) => [...makeRow(i).slice(0, 3), 'x'.repeat(780)]);
    return writeCsv({ sheet: 'Tests', headings, rows }).slice(0, 50 * 1024 * 1024);
  },
  bomb: writeBomb,
};

const bytes = (await MAKERS[process.argv[2] ?? '']?.()) ?? new Uint8Array();
const { table, problems } = await readTestFile({ name: 'tests', bytes });
process.stdout.write(table ? `${(table.rows.length + 1).toLocaleString('en')} rows` : (problems[0]?.message ?? 'nothing'));
