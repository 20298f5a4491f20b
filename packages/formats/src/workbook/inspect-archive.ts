import { strFromU8, Unzip, UnzipInflate, unzipSync } from 'fflate';

const MAX_ROWS = 60_000;
const MAX_UNPACKED_BYTES = 150 * 1024 * 1024;
const MAX_SHEETS = 100;

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
  return measured.rows > MAX_ROWS
    ? `A sheet has ${measured.rows.toLocaleString('en')} rows; at most ${MAX_ROWS.toLocaleString('en')} are read. Split the workbook.`
    : null;
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
/** A row's opening tag may lie across two pieces. */
const TAG_LENGTH = 40;

/** What the archive really unpacks to, piece by piece, whatever its directory says; stops at the bound. */
function measure(bytes: Uint8Array): { unpacked: number; rows: number } | null {
  let unpacked = 0;
  let rows = 0;
  const archive = new Unzip((file) => {
    let own = 0;
    let tail = '';
    file.ondata = (error, piece) => {
      if (error) throw error;
      unpacked += piece.length;
      if (!isSheet(file.name)) return;
      const text = tail + strFromU8(piece, true);
      own += countRows(text) - countRows(tail);
      rows = Math.max(rows, own);
      tail = text.slice(-TAG_LENGTH);
    };
    file.start();
  });
  archive.register(UnzipInflate);
  try {
    for (let at = 0; at < bytes.length && unpacked <= MAX_UNPACKED_BYTES; at += PIECE_BYTES) {
      archive.push(bytes.subarray(at, at + PIECE_BYTES), at + PIECE_BYTES >= bytes.length);
    }
    return { unpacked, rows };
  } catch {
    return null;
  }
}

function countRows(text: string): number {
  return text.split(/<(?:\w+:)?row[\s>]/).length - 1;
}
