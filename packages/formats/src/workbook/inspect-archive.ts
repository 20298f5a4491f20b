import { strFromU8, Unzip, UnzipInflate, unzipSync } from 'fflate';

const MAX_ROWS = 60_000;
const MAX_UNPACKED_BYTES = 150 * 1024 * 1024;
const MAX_SHEETS = 100;
/** The most that spreadsheet programs themselves have (ECMA-376: 1,048,576 rows, 16,384 columns), and what is read of it. */
const LAST_ROW = 1_048_576;
const MAX_CELLS = 2_000_000;
const MAX_MERGED = 100_000;

/**
 * Looks at a workbook's archive before it is read in earnest: that it is one, is not locked, and is of a size that can be
 * read. Returns a sentence when it is not. It is unpacked once here, in pieces, so that no lying directory fills the memory.
 */
export function inspectArchive(bytes: Uint8Array): string | null {
  if (bytes.length === 0) return 'The file is empty.';
  if (startsWith(bytes, [0xd0, 0xcf, 0x11, 0xe0])) {
    return 'The workbook is protected with a password, or is in the old .xls format. Save it as .xlsx without a password.';
  }
  if (!startsWith(bytes, [0x50, 0x4b])) return 'The file is not a workbook. Save it as .xlsx and choose it again.';
  const entries = listEntries(bytes);
  if (!entries) return 'The workbook is damaged: its end is missing or not readable. Save it again and choose the new file.';
  if (!entries.some(({ name }) => name === 'xl/workbook.xml')) return 'The file is an archive, but not an .xlsx workbook.';
  const measured = measure(bytes);
  if (!measured) return 'The workbook is damaged: one of its parts cannot be unpacked. Save it again and choose the new file.';
  if (measured.unpacked > MAX_UNPACKED_BYTES)
    return `The workbook unpacks to more than ${MAX_UNPACKED_BYTES / 1_048_576} MB, which is the most that is read. Split it.`;
  const sheets = entries.filter(({ name }) => isSheet(name));
  if (sheets.length > MAX_SHEETS) return `The workbook has ${sheets.length} sheets; at most ${MAX_SHEETS} are read.`;
  return describeExcess(measured);
}

function describeExcess({ rows, lastRow, cells, merged }: Measured): string | null {
  const say = (number: number) => number.toLocaleString('en');
  if (rows > MAX_ROWS) return `A sheet has ${say(rows)} rows; at most ${say(MAX_ROWS)} are read. Split the workbook.`;
  if (lastRow > LAST_ROW) return `A sheet has a row of the number ${say(lastRow)}; no spreadsheet goes beyond ${say(LAST_ROW)}.`;
  if (cells > MAX_CELLS)
    return `The workbook has ${say(cells)} cells, empty ones that are formatted included; at most ${say(MAX_CELLS)} are read. Clear the formats below and beside the table.`;
  if (merged > MAX_MERGED)
    return `The workbook has merged ranges of ${say(merged)} cells; at most ${say(MAX_MERGED)} may be merged. Undo the merging of whole rows or columns.`;
  return null;
}

function startsWith(bytes: Uint8Array, start: readonly number[]): boolean {
  return start.every((byte, index) => bytes[index] === byte);
}

const isSheet = (name: string) => /^xl\/worksheets\/[^/]+\.xml$/.test(name);

function listEntries(bytes: Uint8Array): { name: string }[] | null {
  const entries: { name: string }[] = [];
  try {
    unzipSync(bytes, {
      filter: ({ name }) => {
        entries.push({ name });
        return false;
      },
    });
    return entries;
  } catch {
    return null;
  }
}

const PIECE_BYTES = 64 * 1024;
/** A tag may lie across two pieces. */
const TAG_LENGTH = 200;

interface Measured {
  readonly unpacked: number;
  /** The most of any sheet. */
  readonly rows: number;
  readonly lastRow: number;
  readonly cells: number;
  readonly merged: number;
}

/** What the archive really unpacks to, piece by piece, whatever its directory says; stops at the bound. */
function measure(bytes: Uint8Array): Measured | null {
  let unpacked = 0;
  let [rows, lastRow, cells, merged] = [0, 0, 0, 0];
  const archive = new Unzip((file) => {
    let own = 0;
    let tail = '';
    file.ondata = (error, piece) => {
      if (error) throw error;
      unpacked += piece.length;
      if (!isSheet(file.name)) return;
      const text = tail + strFromU8(piece, true);
      const [before, now] = [countTags(tail), countTags(text)];
      own += now.rows - before.rows;
      rows = Math.max(rows, own);
      lastRow = Math.max(lastRow, now.lastRow);
      cells += now.cells - before.cells;
      merged += now.merged - before.merged;
      tail = text.slice(-TAG_LENGTH);
    };
    file.start();
  });
  archive.register(UnzipInflate);
  try {
    for (let at = 0; at < bytes.length && unpacked <= MAX_UNPACKED_BYTES; at += PIECE_BYTES) {
      archive.push(bytes.subarray(at, at + PIECE_BYTES), at + PIECE_BYTES >= bytes.length);
    }
    return { unpacked, rows, lastRow, cells, merged };
  } catch {
    return null;
  }
}

const ROW = /<(?:\w{1,20}:)?row(?=[\s>/])(?:[^<>]{0,120}?\sr="(\d{1,20})")?/g;
const CELL = /<(?:\w{1,20}:)?c(?=[\s>/])/g;
const MERGE = /<(?:\w{1,20}:)?mergeCell\s[^<>]{0,60}?ref="([A-Z]{1,8})?(\d{1,10})?(?::([A-Z]{1,8})?(\d{1,10})?)?"/g;

function countTags(text: string): Pick<Measured, 'rows' | 'lastRow' | 'cells' | 'merged'> {
  let [rows, lastRow, merged] = [0, 0, 0];
  for (const [, number = '0'] of text.matchAll(ROW)) {
    rows += 1;
    lastRow = Math.max(lastRow, Number(number));
  }
  for (const [, from = 'A', top = '1', to = from, bottom = top] of text.matchAll(MERGE))
    merged += (Math.abs(toColumn(to) - toColumn(from)) + 1) * (Math.abs(Number(bottom) - Number(top)) + 1);
  return { rows, lastRow, cells: text.match(CELL)?.length ?? 0, merged };
}

const toColumn = (letters: string) => [...letters].reduce((sum, letter) => sum * 26 + letter.charCodeAt(0) - 64, 0);
