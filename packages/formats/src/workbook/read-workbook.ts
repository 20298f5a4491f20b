import ExcelJS from 'exceljs';
import { inspectArchive } from './inspect-archive.ts';
import type { CellContent, Sheet, SheetRow, WorkbookReading } from './workbook.ts';

/**
 * Reads an XLSX workbook (Office Open XML, ISO/IEC 29500) into cells. Never throws: a file that is none, is locked, damaged
 * or too large comes back with a sentence. Cost O(cells).
 */
export async function readWorkbook(bytes: Uint8Array): Promise<WorkbookReading> {
  const refusal = inspectArchive(bytes);
  if (refusal !== null) return { ok: false, sheet: '', message: refusal };
  const workbook = new ExcelJS.Workbook();
  try {
    // exceljs declares its own Buffer; a Node Buffer over the same bytes is what it reads.
    await workbook.xlsx.load(Buffer.from(bytes) as unknown as ExcelJS.Buffer);
  } catch (error) {
    return {
      ok: false,
      sheet: '',
      message: `The workbook cannot be read (${error instanceof Error ? error.message : 'unknown'}). Save it again and choose the new file.`,
    };
  }
  const sheets = workbook.worksheets.map(toSheet);
  const long = findLongCell(sheets);
  return long === null ? { ok: true, sheets } : { ok: false, ...long };
}

/** A spreadsheet program itself holds 32,767 characters in a cell; more is a mistake, or meant to harm. */
const MAX_CELL_CHARACTERS = 100_000;

function findLongCell(sheets: readonly Sheet[]): { sheet: string; message: string } | null {
  for (const { name, rows } of sheets) {
    for (const { number, cells } of rows) {
      for (const content of cells.values()) {
        if (content.kind !== 'text' || content.text.length <= MAX_CELL_CHARACTERS) continue;
        return {
          sheet: name,
          message: `Row ${number} of sheet ${name} has a cell of more than ${MAX_CELL_CHARACTERS.toLocaleString('en')} characters.`,
        };
      }
    }
  }
  return null;
}

function toSheet(worksheet: ExcelJS.Worksheet): Sheet {
  const rows: SheetRow[] = [];
  worksheet.eachRow({ includeEmpty: false }, (row, number) => {
    const cells = new Map<number, CellContent>();
    let indent: number | null = null;
    row.eachCell({ includeEmpty: false }, (cell, column) => {
      const isRepeatOfMerge = cell.isMerged && cell.master.address !== cell.address;
      const content = isRepeatOfMerge ? null : toContent(cell.value);
      if (!content) return;
      cells.set(column, content);
      indent ??= toIndent(cell);
    });
    if (cells.size > 0) rows.push({ number, cells, indent: indent ?? 0 });
  });
  return { name: worksheet.name, rows };
}

function toIndent(cell: ExcelJS.Cell): number {
  const own = cell.alignment?.indent ?? 0;
  return own > 0 ? own : typeof cell.value === 'string' ? (/^[ \t\u00a0]*/.exec(cell.value)?.[0].length ?? 0) : 0;
}

function toContent(value: ExcelJS.CellValue): CellContent | null {
  if (value === null || value === undefined) return null;
  if (typeof value === 'string') return value.trim() === '' ? null : { kind: 'text', text: value.trim() };
  if (typeof value === 'number') return { kind: 'number', number: value };
  if (typeof value === 'boolean') return { kind: 'truth', value };
  if (value instanceof Date) return Number.isNaN(value.getTime()) ? null : { kind: 'date', day: value.toISOString().slice(0, 10) };
  if ('richText' in value) return toContent(value.richText.map((run) => run.text).join(''));
  if ('formula' in value || 'sharedFormula' in value)
    return { kind: 'formula', formula: toFormula(value), result: toContent(value.result as ExcelJS.CellValue) ?? undefined };
  if ('error' in value) return { kind: 'error', text: value.error };
  return 'text' in value ? toContent(value.text as ExcelJS.CellValue) : null;
}

function toFormula(value: ExcelJS.CellFormulaValue | ExcelJS.CellSharedFormulaValue): string {
  return 'sharedFormula' in value ? value.sharedFormula : value.formula;
}
