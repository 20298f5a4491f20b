import type { TextTable } from '@kindred-baton/core/tables/text-table';
import type { CellContent, Sheet, SheetRow } from '../workbook/workbook.ts';
import { readWorkbook } from '../workbook/read-workbook.ts';
import { readCsv } from './read-csv.ts';
import type { TableFile, TablesReading } from './text-tables.ts';
import { toTextTable } from './text-tables.ts';

/**
 * Reads a spreadsheet, by its content: an XLSX workbook gives a table for each sheet, anything else is read as CSV. Never throws:
 * a file that cannot be read comes back with a sentence. Formulas give their last results. Cost O(cells).
 */
export async function readTables({ name, bytes }: TableFile): Promise<TablesReading> {
  if (isArchive(bytes) || isOldWorkbook(bytes)) {
    const reading = await readWorkbook(bytes);
    if (!reading.ok) return reading;
    const tables = reading.sheets.map(toTable).filter(({ headings }) => headings.length > 0);
    return tables.length > 0 ? { ok: true, tables } : { ok: false, message: 'The workbook has no cells that say anything.' };
  }
  return readCsv({ name, bytes });
}

const isArchive = (bytes: Uint8Array) => bytes[0] === 0x50 && bytes[1] === 0x4b;
const isOldWorkbook = (bytes: Uint8Array) => bytes[0] === 0xd0 && bytes[1] === 0xcf;

/** A sheet as text: the first row with more than one filled cell (else the first at all) holds the headings. */
function toTable(sheet: Sheet): TextTable {
  const rows = sheet.rows.map(({ number, cells, indent }) => ({ number, cells: toTexts(cells), indent }));
  return toTextTable(sheet.name, rows);
}

function toTexts(cells: SheetRow['cells']): string[] {
  const texts: string[] = [];
  for (const [column, content] of cells) texts[column - 1] = toText(content);
  return Array.from(texts, (text) => text ?? '');
}

/** A cell as text; an empty one is ''. */
export function toText(content: CellContent | undefined): string {
  if (content === undefined) return '';
  switch (content.kind) {
    case 'text':
      return content.text;
    case 'number':
      return String(content.number);
    case 'date':
      return content.day;
    case 'truth':
      return content.value ? 'yes' : 'no';
    case 'formula':
      return content.result === undefined ? '' : toText(content.result);
    case 'error':
      return '';
  }
}
