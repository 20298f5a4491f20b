import { parse } from 'csv-parse/sync';
import type { TableFile, TablesReading } from './text-tables.ts';
import { toTextTable } from './text-tables.ts';

const MAX_CSV_BYTES = 50 * 1024 * 1024;
const MAX_CELL_CHARACTERS = 100_000;
const MAX_ROWS = 60_000;
const SEPARATORS = [',', ';', '\t', '|'] as const;
/** Written in front of a cell that a spreadsheet would take for a formula (write-csv.ts). */
const GUARDED = /^'(?=[=+\-@\t\r])/;

/**
 * Reads CSV (RFC 4180, generously): the separator is guessed from the first lines, the encoding from a mark at the start or from
 * the bytes: UTF-8, UTF-16, else Windows-1252. Never throws; cost O(bytes).
 */
export function readCsv({ name, bytes }: TableFile): TablesReading {
  if (bytes.length === 0) return { ok: false, message: 'The file is empty.' };
  if (bytes.length > MAX_CSV_BYTES)
    return { ok: false, message: `The file has more than ${MAX_CSV_BYTES / 1_048_576} MB, which is the most that is read. Split it.` };
  const text = decodeText(bytes);
  if (text === null) return { ok: false, message: 'The file is neither a workbook (.xlsx) nor text (CSV).' };
  try {
    const rows = parse(text, {
      ...{ delimiter: guessSeparator(text), bom: true, relax_column_count: true, relax_quotes: true, skip_empty_lines: true },
      ...{ info: true, max_record_size: MAX_CELL_CHARACTERS * 20, to: MAX_ROWS + 1 },
    }) as unknown as { info: { lines: number }; record: string[] }[];
    if (rows.length > MAX_ROWS)
      return {
        ok: false,
        message: `The file has more than ${MAX_ROWS.toLocaleString('en')} rows, which is the most that is read. Split it.`,
      };
    const tall = rows.find(({ record }) => record.some((cell) => cell.length > MAX_CELL_CHARACTERS));
    if (tall)
      return {
        ok: false,
        message: `Line ${tall.info.lines} has a cell of more than ${MAX_CELL_CHARACTERS.toLocaleString('en')} characters.`,
      };
    const table = toTextTable(
      name.replace(/\.[^.]*$/, ''),
      rows.map(({ info, record }) => {
        const cells = record.map((cell) => cell.replace(GUARDED, ''));
        const first = cells.find((cell) => cell.trim() !== '') ?? '';
        return { number: info.lines, cells: cells.map((cell) => cell.trim()), indent: /^[ \t\u00a0]*/.exec(first)?.[0].length ?? 0 };
      }),
    );
    return table.headings.length > 0 ? { ok: true, tables: [table] } : { ok: false, message: 'The file has no cells that say anything.' };
  } catch (error) {
    return { ok: false, message: describe(error) };
  }
}

/** csv-parse names the line in its own words; a quote that is never closed is what happens. */
function describe(error: unknown): string {
  const { code, lines } = error as { code?: string; lines?: number };
  const where = lines === undefined ? '' : ` near line ${lines}`;
  if (code === 'CSV_QUOTE_NOT_CLOSED') return `A quotation mark is opened${where} and never closed; the end of the file may be missing.`;
  if (code === 'CSV_MAX_RECORD_SIZE') return `A line${where} is longer than can be read; a quotation mark may be missing.`;
  return `The file cannot be read as CSV${where}.`;
}

/** The text of the bytes, or null when they are no text at all. */
export function decodeText(bytes: Uint8Array): string | null {
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return new TextDecoder('utf-16le').decode(bytes);
  if (bytes[0] === 0xfe && bytes[1] === 0xff) return new TextDecoder('utf-16be').decode(bytes);
  const start = bytes.subarray(0, 4_096);
  const zeros = start.filter((byte) => byte === 0).length;
  if (zeros > start.length / 4) {
    // Every other byte of plain text in UTF-16 is zero; which of them says the order.
    const isLittle = start.filter((byte, at) => byte === 0 && at % 2 === 1).length > zeros / 2;
    return new TextDecoder(isLittle ? 'utf-16le' : 'utf-16be').decode(bytes);
  }
  if (zeros > 0) return null;
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return new TextDecoder('windows-1252').decode(bytes);
  }
}

/** The separator that cuts the first lines into the most columns, the same number in each. */
function guessSeparator(text: string): string {
  const lines = splitOutsideQuotes(text.slice(0, 20_000)).slice(0, 20);
  const score = (separator: string) => {
    const counts = lines.map((line) => countOutsideQuotes(line, separator));
    const most = Math.max(0, ...counts);
    const usual = counts.filter((count) => count === most).length;
    return most === 0 ? 0 : most * (usual / counts.length);
  };
  return [...SEPARATORS].sort((a, b) => score(b) - score(a))[0] ?? ',';
}

function splitOutsideQuotes(text: string): string[] {
  const lines: string[] = [];
  let isInside = false;
  let from = 0;
  for (let at = 0; at < text.length; at += 1) {
    if (text[at] === '"') isInside = !isInside;
    else if (text[at] === '\n' && !isInside) {
      lines.push(text.slice(from, at));
      from = at + 1;
    }
  }
  if (from < text.length) lines.push(text.slice(from));
  return lines.filter((line) => line.trim() !== '');
}

function countOutsideQuotes(line: string, separator: string): number {
  let isInside = false;
  let count = 0;
  for (const character of line) {
    if (character === '"') isInside = !isInside;
    else if (character === separator && !isInside) count += 1;
  }
  return count;
}
