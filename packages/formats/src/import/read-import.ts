import type { WorkbookSheets } from '@kindred-baton/core/imports/workbook-sheets';
import type { ImportProblem } from '@kindred-baton/core/tables/place';
import { toNameKey } from '@kindred-baton/core/values/field';
import { readWorkbook } from '../workbook/read-workbook.ts';
import type { Sheet } from '../workbook/workbook.ts';
import type { SheetKey, SheetLayout } from './layout.ts';
import { SHEET_LAYOUTS } from './layout.ts';
import { readFieldRows, readNodeRows, readRowRows } from './read-nodes-and-rows.ts';
import { readScenarioRows } from './read-scenarios.ts';
import type { Table } from './read-table.ts';
import { readTable } from './read-table.ts';
import { readTestRows } from './read-tests.ts';

export interface ImportReading {
  readonly sheets: WorkbookSheets;
  readonly problems: readonly ImportProblem[];
}

const NOTHING: WorkbookSheets = { nodes: [], tests: [], fields: [], scenarios: [], rows: [] };

/**
 * Reads a lead's workbook in the layout of docs/import.md. Everything that is wrong comes back with sheet, row and column;
 * `sheets` holds what could be read. Never throws.
 */
export async function readImport(bytes: Uint8Array): Promise<ImportReading> {
  const workbook = await readWorkbook(bytes);
  if (!workbook.ok) return { sheets: NOTHING, problems: [workbook] };
  const tables = new Map<SheetKey, Table>();
  const problems: ImportProblem[] = [];
  for (const sheet of workbook.sheets) {
    const key = findLayout(sheet);
    if (key) tables.set(key, readTable(sheet, SHEET_LAYOUTS[key]));
    else if (!isPassedOver(sheet))
      problems.push({
        sheet: sheet.name,
        message: `Sheet “${sheet.name}” is not one that is read. Rename or remove it; sheets named Read me are passed over.`,
      });
  }
  for (const [key, layout] of Object.entries(SHEET_LAYOUTS) as [SheetKey, SheetLayout][]) {
    if (layout.isRequired && !tables.has(key))
      problems.push({ sheet: layout.name, message: `Sheet ${layout.name} is missing. It may be empty but for its headings.` });
  }
  return readTables(tables, problems);
}

function findLayout(sheet: Sheet): SheetKey | undefined {
  return (Object.keys(SHEET_LAYOUTS) as SheetKey[]).find((key) => toNameKey(SHEET_LAYOUTS[key].name) === toNameKey(sheet.name));
}

const isPassedOver = (sheet: Sheet) => toNameKey(sheet.name) === 'read me' || sheet.rows.length === 0;

function readTables(tables: ReadonlyMap<SheetKey, Table>, problems: readonly ImportProblem[]): ImportReading {
  const rowsOf = (key: SheetKey) => tables.get(key)?.rows ?? [];
  const nodes = readNodeRows(rowsOf('processes'));
  const tests = readTestRows(rowsOf('tests'));
  const scenarios = readScenarioRows(rowsOf('scenarios'));
  const fields = readFieldRows(rowsOf('values'));
  const rows = readRowRows(rowsOf('rows'));
  return {
    sheets: { nodes: nodes.items, tests: tests.items, scenarios: scenarios.items, fields: fields.items, rows: rows.items },
    problems: [
      ...problems,
      ...[...tables.values()].flatMap((table) => table.problems),
      ...[nodes, tests, scenarios, fields, rows].flatMap((part) => part.problems),
    ],
  };
}
