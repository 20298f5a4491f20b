import { strFromU8, unzipSync } from 'fflate';

export const MAX_ROWS = 20_000;
const MAX_UNPACKED_BYTES = 150 * 1024 * 1024;
const MAX_SHEETS = 100;

/**
 * Looks at a workbook's archive before it is read in earnest: that it is one, is not locked, and is of a size that can be
 * read. Returns a sentence when it is not. Only the sheets' own parts are unpacked, and only within the bound.
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
  const unpacked = entries.reduce((sum, entry) => sum + entry.size, 0);
  if (unpacked > MAX_UNPACKED_BYTES) return `The workbook unpacks to ${Math.round(unpacked / 1_048_576)} MB; at most 150 MB are read.`;
  const sheets = entries.filter(({ name }) => isSheet(name));
  if (sheets.length > MAX_SHEETS) return `The workbook has ${sheets.length} sheets; at most ${MAX_SHEETS} are read.`;
  return findLongSheet(bytes);
}

function startsWith(bytes: Uint8Array, start: readonly number[]): boolean {
  return start.every((byte, index) => bytes[index] === byte);
}

const isSheet = (name: string) => /^xl\/worksheets\/[^/]+\.xml$/.test(name);

function listEntries(bytes: Uint8Array): { name: string; size: number }[] | null {
  const entries: { name: string; size: number }[] = [];
  try {
    unzipSync(bytes, {
      filter: ({ name, originalSize }) => {
        entries.push({ name, size: originalSize });
        return false;
      },
    });
    return entries;
  } catch {
    return null;
  }
}

function findLongSheet(bytes: Uint8Array): string | null {
  const parts = unpackSheets(bytes);
  if (!parts) return 'The workbook is damaged: one of its sheets cannot be unpacked. Save it again and choose the new file.';
  const rows = Math.max(0, ...Object.values(parts).map(countRows));
  return rows > MAX_ROWS
    ? `A sheet has ${rows.toLocaleString('en')} rows; at most ${MAX_ROWS.toLocaleString('en')} are read. Split the workbook.`
    : null;
}

function unpackSheets(bytes: Uint8Array): Record<string, Uint8Array> | null {
  try {
    return unzipSync(bytes, { filter: ({ name, originalSize }) => isSheet(name) && originalSize <= MAX_UNPACKED_BYTES });
  } catch {
    return null;
  }
}

function countRows(part: Uint8Array): number {
  return strFromU8(part).split(/<(?:\w+:)?row[\s>]/).length - 1;
}
