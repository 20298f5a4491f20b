import type { Step } from '../tests/step.ts';
import type { DataRow } from '../tests/version.ts';
import { toNameKey } from '../values/field.ts';
import { guessColumns } from '../tables/guess-columns.ts';
import type { ColumnKind } from '../tables/guess-columns.ts';
import type { ImportProblem } from '../tables/place.ts';
import type { TestEntry } from './test-table.ts';
import type { TextTable } from '../tables/text-table.ts';
import { getPlace } from '../tables/text-table.ts';

const HEADS: readonly ColumnKind<'test' | 'row' | 'as'>[] = [
  { field: 'test', label: 'Test', says: /^((test|test ?case|tc|scenario)( (id|key|code|no|nr|number|name))?)$/ },
  { field: 'row', label: 'Data row', says: /^((data )?(row|set|variant|case|iteration|example)( (id|name|no|number))?|dataset)$/ },
  { field: 'as', label: 'As', says: /^(as|persona)$/ },
];

/** Rows of values for tests, by code or name; without such a column, for the test that the sheet is named after, or the only one. */
export interface DataRowReading {
  readonly rowsOf: ReadonlyMap<TestEntry, readonly DataRow[]>;
  readonly problems: readonly ImportProblem[];
}

const DATA_NAME = /\b(data|values|examples?|parameters?)\b/i;

/** Whether a sheet holds data rows rather than steps: it says so in its name, or its headings are those of no step list. */
export function isDataRowTable({ sheet: name, headings }: TextTable): boolean {
  const columns = guessColumns(headings, HEADS);
  return DATA_NAME.test(name) || (columns.row !== undefined && columns.test !== undefined);
}

/** Reads data rows; a column that is no head is an input. Cost O(rows × columns). */
export function readDataRowTable(table: TextTable, entries: readonly TestEntry[]): DataRowReading {
  const columns = guessColumns(table.headings, HEADS);
  const heads = new Set(Object.values(columns));
  const inputs = table.headings.flatMap((heading, column) => (heads.has(column) || heading === '' ? [] : [{ heading, column }]));
  const byName = new Map(entries.flatMap((entry) => [entry.code ?? '', entry.name].map((name) => [toNameKey(name), entry] as const)));
  const only =
    byName.get(toNameKey(table.sheet.replace(/\b(data|values|examples?|rows?)\b/gi, ' '))) ??
    (entries.length === 1 ? entries[0] : undefined);
  const rowsOf = new Map<TestEntry, DataRow[]>();
  const problems: ImportProblem[] = [];
  let above = '';
  for (const row of table.rows) {
    const cell = (column: number | undefined) => (column === undefined ? '' : (row.cells[column] ?? '').trim());
    const named = cell(columns.test) || above;
    above = named;
    const entry = columns.test === undefined ? only : byName.get(toNameKey(named));
    if (!entry) {
      const message = named === '' ? 'The row does not say for which test it is.' : `There is no test ${named} in the file.`;
      problems.push({ ...getPlace(table, row, columns.test), message });
      continue;
    }
    const rows = rowsOf.get(entry) ?? [];
    const values = Object.fromEntries(inputs.flatMap(({ heading, column }) => (cell(column) === '' ? [] : [[heading, cell(column)]])));
    const as = cell(columns.as);
    rows.push({ name: cell(columns.row) || `Row ${rows.length + 1}`, ...(as === '' ? {} : { as }), values });
    rowsOf.set(entry, rows);
  }
  return { rowsOf, problems };
}

/** Gives tests their rows. A step that says nothing to enter takes the input that is named like its field. */
export function withDataRows(entries: readonly TestEntry[], { rowsOf }: DataRowReading): TestEntry[] {
  return entries.map((entry) => {
    const rows = rowsOf.get(entry);
    if (!rows) return entry;
    const names = new Map(rows.flatMap(({ values }) => Object.keys(values).map((name) => [toNameKey(name), name] as const)));
    return { ...entry, rows: [...entry.rows, ...rows], steps: entry.steps.map((step) => linkInput(step, names)) };
  });
}

function linkInput(step: Step, names: ReadonlyMap<string, string>): Step {
  const name = step.do === 'fill' || step.do === 'pick' ? names.get(toNameKey(step.target)) : undefined;
  return step.value === undefined && name !== undefined ? { ...step, value: `{${name}}` } : step;
}
