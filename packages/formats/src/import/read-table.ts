import type { ImportProblem, Place } from '@kindred-baton/core/tables/place';
import { toNameKey } from '@kindred-baton/core/values/field';
import type { CellContent, Sheet, SheetRow } from '../workbook/workbook.ts';
import { toColumnLetters } from '../workbook/workbook.ts';
import type { SheetLayout } from './layout.ts';

/** A sheet read by its headings: each row as text by heading. */
export interface TableRow {
  readonly place: Place;
  /** By heading; empty cells are the empty text. */
  readonly text: (heading: string) => string;
  readonly values: Readonly<Record<string, string>>;
}

export interface Table {
  readonly rows: readonly TableRow[];
  readonly problems: readonly ImportProblem[];
}

interface Column {
  readonly heading: string;
  readonly isValue: boolean;
}

/** Reads a sheet by the headings in its first row. Cost O(cells). */
export function readTable(sheet: Sheet, layout: SheetLayout): Table {
  const [head, ...body] = sheet.rows;
  if (!head)
    return { rows: [], problems: [{ sheet: sheet.name, message: `Sheet ${sheet.name} is empty; its first row holds the headings.` }] };
  const { columns, problems } = readHeadings(sheet.name, head, layout);
  const rows: TableRow[] = [];
  const all = [...problems];
  if (problems.length > 0) return { rows, problems };
  for (const row of body) {
    const reading = readRow(sheet.name, row, columns);
    rows.push(reading.row);
    all.push(...reading.problems);
  }
  return { rows, problems: all };
}

function readHeadings(sheet: string, head: SheetRow, layout: SheetLayout): { columns: Map<number, Column>; problems: ImportProblem[] } {
  const known = new Map(layout.columns.map(({ heading }) => [toNameKey(heading), heading]));
  const columns = new Map<number, Column>();
  const problems: ImportProblem[] = [];
  const seen = new Set<string>();
  for (const [column, cell] of head.cells) {
    const place = { sheet, row: head.number, column: toColumnLetters(column) };
    const text = cell.kind === 'text' ? cell.text.replace(/\s+/g, ' ').replace(/\*$/, '').trim() : toCellText(cell);
    const heading = known.get(toNameKey(text));
    if (seen.has(toNameKey(text))) problems.push({ ...place, message: `Column “${text}” stands twice.` });
    seen.add(toNameKey(text));
    if (heading === undefined && !layout.hasValueColumns) {
      problems.push({ ...place, message: `Column “${text}” is not known. Known: ${[...known.values()].join(', ')}.` });
    } else columns.set(column, { heading: heading ?? text, isValue: heading === undefined });
  }
  for (const { heading, isRequired } of layout.columns) {
    if (isRequired && !seen.has(toNameKey(heading)))
      problems.push({ sheet, row: head.number, message: `Column “${heading}” is missing in sheet ${sheet}.` });
  }
  return { columns, problems };
}

function readRow(sheet: string, row: SheetRow, columns: ReadonlyMap<number, Column>): { row: TableRow; problems: ImportProblem[] } {
  const texts = new Map<string, string>();
  const values: Record<string, string> = {};
  const problems: ImportProblem[] = [];
  for (const [number, cell] of row.cells) {
    const column = columns.get(number);
    if (!column) {
      problems.push({
        sheet,
        row: row.number,
        column: toColumnLetters(number),
        message: `“${toCellText(cell).slice(0, 40)}” stands in a column without a heading.`,
      });
      continue;
    }
    const wrong = findWrongKind(cell, column);
    if (wrong !== null) problems.push({ sheet, row: row.number, column: column.heading, message: wrong });
    else if (column.isValue) values[column.heading] = toCellText(cell);
    else texts.set(column.heading, toCellText(cell));
  }
  return { row: { place: { sheet, row: row.number }, text: (heading) => texts.get(heading) ?? '', values }, problems };
}

/** Codes and names are text or numbers; a date or a formula there has most likely got in by accident. */
function findWrongKind(cell: CellContent, column: Column): string | null {
  if (cell.kind === 'formula') return `The cell holds the formula =${cell.formula.slice(0, 60)}. Paste its value instead.`;
  if (cell.kind === 'error') return `The cell holds the error ${cell.text}.`;
  if (cell.kind === 'date' && !column.isValue) return `The cell holds a date (${cell.day}) where text is expected. Format it as text.`;
  return null;
}

function toCellText(cell: CellContent): string {
  switch (cell.kind) {
    case 'text':
      return cell.text;
    case 'number':
      return String(cell.number);
    case 'date':
      return cell.day;
    case 'truth':
      return cell.value ? 'yes' : 'no';
    case 'formula':
      return `=${cell.formula}`;
    case 'error':
      return cell.text;
  }
}
