import type { SheetLine } from '@kindred-baton/core/turns/turn-sheet';
import { SHEET_OUTCOMES } from '@kindred-baton/core/turns/turn-sheet';
import ExcelJS from 'exceljs';
import { heading, paragraph, table } from '../documents/html.ts';
import type { DocumentHead } from '../documents/write-page.ts';
import { writePage } from '../documents/write-page.ts';
import { toText } from '../tables/read-tables.ts';
import { NO_MARKUP, toLines } from '../xml/markup.ts';
import { readWorkbook } from '../workbook/read-workbook.ts';

export interface PrintedTurn {
  /** Names the turn and its steps; it must come back as it is. */
  readonly mark: string;
  readonly title: string;
  /** “Acceptance round 2 · From request to first bill, band B · leg 3 of 9”. */
  readonly about: string;
  readonly tester: string;
  readonly environment: string;
  readonly note: string;
  readonly values: readonly { readonly name: string; readonly value: string }[];
  readonly steps: readonly { readonly text: string; readonly expect: string; readonly keeps: string }[];
}

const HEADINGS = ['No.', 'Step', 'You should see', 'How it went', 'What you saw', 'To keep', 'Value'] as const;
const MARK = 'Sheet';
const FIRST_STEP_ROW = 9;

/** A turn sheet as a workbook to fill in: the outcome is chosen from a list, the steps are not to be changed. */
export async function writeTurnSheet(turn: PrintedTurn): Promise<Uint8Array> {
  const workbook = new ExcelJS.Workbook();
  const sheet = workbook.addWorksheet('Turn', { views: [{ state: 'frozen', ySplit: FIRST_STEP_ROW - 1 }] });
  sheet.columns = [{ width: 8 }, { width: 52 }, { width: 36 }, { width: 15 }, { width: 40 }, { width: 18 }, { width: 22 }];
  const head = [
    [turn.title],
    [turn.about],
    [`With ${turn.tester}, environment ${turn.environment}`],
    [turn.note],
    [turn.values.map(({ name, value }) => `${name}: ${value}`).join('   ')],
    [`Write under “How it went”: ${SHEET_OUTCOMES.join(', ')}. Leave the steps as they are. Values to keep go into the last column.`],
    [MARK, turn.mark],
  ];
  for (const row of head) sheet.addRow(row);
  sheet.addRow([...HEADINGS]);
  sheet.getRow(1).font = { bold: true, size: 15 };
  sheet.getRow(FIRST_STEP_ROW - 1).font = { bold: true };
  sheet.getRow(7).font = { color: { argb: 'FF8D979C' }, size: 8 };
  turn.steps.forEach(({ text, expect, keeps }, index) => {
    const row = sheet.addRow([index + 1, text, expect, null, null, keeps === '' ? null : keeps, null]);
    row.getCell(4).dataValidation = {
      type: 'list',
      allowBlank: true,
      formulae: [`"${SHEET_OUTCOMES.join(',')}"`],
      showErrorMessage: true,
      error: 'Choose one of the list.',
    };
    row.alignment = { vertical: 'top', wrapText: true };
    row.getCell(7).numFmt = '@';
  });
  return new Uint8Array((await workbook.xlsx.writeBuffer()) as ArrayBuffer);
}

/** The same to print and fill in by hand. */
export function printTurnSheet(turn: PrintedTurn, head: DocumentHead): string {
  const style =
    'h1 { font-size: 18pt; margin-bottom: 1mm } td:nth-child(4) { width: 22mm } td:nth-child(5) { width: 60mm } tbody td { height: 12mm }';
  const body = [
    paragraph(`${head.programme} · ${head.day}`, 'programme'),
    heading(1, turn.title),
    paragraph(`${turn.about} · with ${turn.tester}, environment ${turn.environment}`, 'about'),
    paragraph(turn.note),
    turn.values.length === 0
      ? NO_MARKUP
      : table(
          ['You have', 'Value'],
          turn.values.map(({ name, value }) => [name, value]),
        ),
    table(
      ['No.', 'Step', 'You should see', 'How it went', 'What you saw, values to keep'],
      turn.steps.map(({ text, expect, keeps }, index) => [index + 1, text, expect, '', keeps === '' ? '' : `${keeps}:`]),
    ),
    paragraph('Name, day and signature: ________________________________________'),
  ];
  return writePage(head, toLines(body), { style, isWide: true });
}

export type FilledSheet =
  { readonly ok: true; readonly mark: string; readonly lines: readonly SheetLine[] } | { readonly ok: false; readonly message: string };

const NO_SHEET = 'This is no turn sheet: take one from the turn, fill it in, and bring it back.';

/** Reads a sheet that comes back. Never throws: a file that is none is said in a sentence. Cost O(cells). */
export async function readTurnSheet({ bytes }: { readonly bytes: Uint8Array }): Promise<FilledSheet> {
  const isArchive = bytes[0] === 0x50 && bytes[1] === 0x4b;
  const reading = isArchive ? await readWorkbook(bytes) : null;
  if (reading === null) return { ok: false, message: NO_SHEET };
  if (!reading.ok) return { ok: false, message: reading.message };
  const rows = reading.sheets
    .flatMap((sheet) => sheet.rows)
    .map(
      ({ cells }) =>
        (column: number) =>
          toText(cells.get(column)).trim(),
    );
  const mark = rows.find((cell) => cell(1) === MARK)?.(2) ?? '';
  const at = rows.findIndex((cell) => cell(1) === HEADINGS[0] && cell(4) === HEADINGS[3]);
  if (mark === '' || at < 0) return { ok: false, message: NO_SHEET };
  const lines = rows.slice(at + 1).flatMap((cell): SheetLine[] => {
    const number = Number(cell(1));
    return Number.isInteger(number) && number > 0 ? [{ number, step: cell(2), outcome: cell(4), note: cell(5), kept: cell(7) }] : [];
  });
  return { ok: true, mark, lines };
}
