import { isDataRowTable, readDataRowTable, withDataRows } from '@kindred-baton/core/imports/data-row-table';
import type { ImportProblem } from '@kindred-baton/core/tables/place';
import type { TestEntry, TestMapping } from '@kindred-baton/core/imports/test-table';
import { guessTestMapping, readTestTable } from '@kindred-baton/core/imports/test-table';
import type { TextTable } from '@kindred-baton/core/tables/text-table';
import { decodeText } from '../tables/read-csv.ts';
import { readTables } from '../tables/read-tables.ts';
import type { TableFile } from '../tables/text-tables.ts';
import { readFeature } from './read-feature.ts';
import { isRecording, readRecording } from './read-recording.ts';

export interface TestFileReading {
  readonly format: 'table' | 'Gherkin' | 'recording';
  readonly entries: readonly TestEntry[];
  readonly problems: readonly ImportProblem[];
  readonly sheets: readonly string[];
  readonly table: TextTable | null;
  readonly mapping: TestMapping | null;
  /** The sheets that were taken as data rows. */
  readonly dataSheets: readonly string[];
}

export interface TestFileOptions {
  readonly sheet?: string | undefined;
  readonly mapping?: TestMapping | undefined;
  /** A second file with the data rows. */
  readonly data?: TableFile | undefined;
}

/** A tag ends where white space begins: each character is taken in one way alone, so that no text takes long. */
const FEATURE = /^\ufeff?(?:\s|#[^\n]*\n|@\S+(?=\s))*(?:Feature|Ability|Business Need|Rule)\s*:/;

/**
 * Reads tests in plain language from XLSX, CSV or Gherkin, and what a browser's recorder wrote. Sheets with data rows are found by their name or headings. Never throws: a file
 * that cannot be read is one problem.
 */
export async function readTestFile(file: TableFile, { sheet, mapping, data }: TestFileOptions = {}): Promise<TestFileReading> {
  const rows = data === undefined ? [] : await readDataFile(data);
  const isArchive = file.bytes[0] === 0x50 && file.bytes[1] === 0x4b;
  const text = isArchive ? null : decodeText(file.bytes.subarray(0, MOST_FEATURE_BYTES + 1));
  if (text !== null && (/\.feature$/i.test(file.name) || FEATURE.test(text.slice(0, 4_000)))) {
    const { entries, problems } =
      file.bytes.length > MOST_FEATURE_BYTES
        ? { entries: [], problems: [{ sheet: file.name, message: `A feature file has at most ${MOST_FEATURE_BYTES / 1_048_576} MB.` }] }
        : readFeature(text, file.name);
    return { format: 'Gherkin', ...addRows({ entries, problems }, rows), sheets: [], table: null, mapping: null, dataSheets: [] };
  }
  if (text !== null && isRecording(text) && file.bytes.length <= MOST_FEATURE_BYTES)
    return {
      ...{ format: 'recording', ...addRows(readRecording(text, file.name), rows) },
      ...{ sheets: [], table: null, mapping: null, dataSheets: [] },
    };
  const tables = await readTables(file);
  if (!tables.ok) return nothing(file, tables.message);
  const steps = tables.tables.filter((table) => !isDataRowTable(table));
  const chosen = tables.tables.find((table) => table.sheet === sheet) ?? steps[0];
  if (!chosen) return nothing(file, 'No sheet of the file holds steps.');
  const used = mapping ?? guessTestMapping(chosen);
  const read =
    sheet !== undefined && used.grouping !== 'sheet'
      ? [readTestTable(chosen, used)]
      : steps.map((table) => readTestTable(table, chooseMapping(table, chosen, used)));
  const together = { entries: read.flatMap(({ entries }) => entries), problems: read.flatMap(({ problems }) => problems) };
  const dataTables = tables.tables.filter((table) => isDataRowTable(table) && table !== chosen);
  return {
    ...{ format: 'table', table: chosen, mapping: used, sheets: tables.tables.map((table) => table.sheet) },
    ...addRows(together, [...dataTables.map((table) => ({ ok: true as const, table })), ...rows]),
    dataSheets: dataTables.map((table) => table.sheet),
  };
}

const MOST_FEATURE_BYTES = 5 * 1024 * 1024;

/** Sheets with the chosen one's headings are mapped like it; others by their own. */
function chooseMapping(table: TextTable, chosen: TextTable, mapping: TestMapping): TestMapping {
  const isAlike = table === chosen || table.headings.join('\u0001') === chosen.headings.join('\u0001');
  return isAlike ? mapping : { ...guessTestMapping(table), ...(mapping.grouping === 'sheet' ? { grouping: 'sheet' } : {}) };
}

const nothing = (file: TableFile, message: string): TestFileReading => ({
  ...{ format: 'table', entries: [], problems: [{ sheet: file.name, message }], sheets: [], table: null, mapping: null, dataSheets: [] },
});

type DataTable = { readonly ok: true; readonly table: TextTable } | { readonly ok: false; readonly problem: ImportProblem };

async function readDataFile(file: TableFile): Promise<DataTable[]> {
  const tables = await readTables(file);
  if (!tables.ok) return [{ ok: false, problem: { sheet: file.name, message: tables.message } }];
  return tables.tables.map((table) => ({ ok: true, table }));
}

function addRows(reading: { entries: readonly TestEntry[]; problems: readonly ImportProblem[] }, tables: readonly DataTable[]) {
  return tables.reduce((sum, each) => {
    if (!each.ok) return { ...sum, problems: [...sum.problems, each.problem] };
    const read = readDataRowTable(each.table, sum.entries);
    return { entries: withDataRows(sum.entries, read), problems: [...sum.problems, ...read.problems] };
  }, reading);
}
