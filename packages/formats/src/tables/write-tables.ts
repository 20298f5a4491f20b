import { stringify } from 'csv-stringify/sync';
import ExcelJS from 'exceljs';

/** A table to be written: headings, then rows of text or numbers. */
export interface OutTable {
  readonly sheet: string;
  readonly headings: readonly string[];
  readonly rows: readonly (readonly (string | number)[])[];
  /** By column, in characters; a guess from the headings where absent. */
  readonly widths?: readonly number[];
}

const FORMULA_START = /^[=+\-@\t\r]/;
const NUMBER = /^[+-]?\d+([.,]\d+)?$/;

/**
 * Writes CSV (RFC 4180) in UTF-8 with a mark at the start, as spreadsheets expect. A cell that a spreadsheet would take for a
 * formula gets an apostrophe in front (OWASP, CSV Injection); `readCsv` takes it away again.
 */
export function writeCsv({ headings, rows }: OutTable): Uint8Array {
  const guard = (cell: string | number) =>
    typeof cell === 'string' && FORMULA_START.test(cell) && !NUMBER.test(cell) ? `'${cell}` : String(cell);
  return new TextEncoder().encode(
    `\ufeff${stringify(
      [headings, ...rows].map((row) => row.map(guard)),
      { record_delimiter: 'windows' },
    )}`,
  );
}

/** Writes a workbook with a sheet for each table. Text stays text, whatever it begins with. */
export async function writeXlsx(tables: readonly OutTable[]): Promise<Uint8Array> {
  const workbook = new ExcelJS.Workbook();
  const names = new Set<string>();
  for (const { sheet: name, headings, rows, widths } of tables) {
    const sheet = workbook.addWorksheet(toSheetName(name, names), { views: [{ state: 'frozen', ySplit: 1 }] });
    sheet.columns = headings.map((header, column) => ({ header, width: widths?.[column] ?? Math.max(12, header.length + 4) }));
    sheet.getRow(1).font = { bold: true };
    for (const row of rows) sheet.addRow(row.map((cell) => (cell === '' ? null : cell)));
    sheet.eachRow((row) => (row.alignment = { vertical: 'top', wrapText: true }));
  }
  return new Uint8Array((await workbook.xlsx.writeBuffer()) as ArrayBuffer);
}

/** Sheet names have 31 characters at most, none of []:*?/\, and are told apart without regard to case. */
function toSheetName(name: string, taken: Set<string>): string {
  const plain =
    name
      .replace(/[[\]:*?/\\']/g, ' ')
      .trim()
      .slice(0, 31) || 'Sheet';
  for (let number = 1; ; number += 1) {
    const tail = number === 1 ? '' : ` ${number}`;
    const candidate = plain.slice(0, 31 - tail.length) + tail;
    if (taken.has(candidate.toLowerCase())) continue;
    taken.add(candidate.toLowerCase());
    return candidate;
  }
}
