import ExcelJS from 'exceljs';
import type { SheetLayout } from './layout.ts';
import { SHEET_LAYOUTS } from './layout.ts';

/** The empty import workbook: a sheet for each part with its headings, and a Read me that says what each column means. */
export async function writeTemplate(): Promise<Uint8Array> {
  const workbook = new ExcelJS.Workbook();
  const layouts: readonly SheetLayout[] = Object.values(SHEET_LAYOUTS);
  writeReadMe(workbook, layouts);
  for (const layout of layouts) writeHeadings(workbook, layout);
  const written = await workbook.xlsx.writeBuffer();
  return new Uint8Array(written as ArrayBuffer);
}

function writeReadMe(workbook: ExcelJS.Workbook, layouts: readonly SheetLayout[]): void {
  const sheet = workbook.addWorksheet('Read me');
  sheet.columns = [{ width: 14 }, { width: 18 }, { width: 12 }, { width: 96 }];
  sheet.addRow(['Sheet', 'Column', 'Needed', 'What it says']).font = { bold: true };
  for (const layout of layouts) {
    sheet.addRow([layout.name, '', layout.isRequired ? 'yes' : 'no', layout.says]);
    for (const column of layout.columns) sheet.addRow(['', column.heading, column.isRequired ? 'yes' : 'no', column.says]);
  }
}

function writeHeadings(workbook: ExcelJS.Workbook, layout: SheetLayout): void {
  const sheet = workbook.addWorksheet(layout.name, { views: [{ state: 'frozen', ySplit: 1 }] });
  sheet.columns = layout.columns.map(({ heading }) => ({ header: heading, width: Math.max(14, heading.length + 4) }));
  sheet.getRow(1).font = { bold: true };
}
