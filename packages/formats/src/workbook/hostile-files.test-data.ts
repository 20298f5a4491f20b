import { deflateRawSync } from 'node:zlib';
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import * as XLSX from 'xlsx';

/** An archive of one part that unpacks to 160 MB, while its directory claims ten bytes (APPNOTE.TXT 6.3.10: local header, directory, end). */
export function writeBomb(): Uint8Array {
  const name = Buffer.from('xl/workbook.xml');
  const packed = deflateRawSync(Buffer.alloc(160 * 1_048_576), { level: 1 });
  const fields = Buffer.alloc(26);
  fields.writeUInt16LE(20, 0);
  fields.writeUInt16LE(8, 4);
  fields.writeUInt32LE(packed.length, 14);
  fields.writeUInt32LE(10, 18);
  fields.writeUInt16LE(name.length, 22);
  const local = Buffer.concat([Buffer.from('PK\u0003\u0004'), fields, name, packed]);
  const entry = Buffer.concat([Buffer.from('PK\u0001\u0002\u0014\u0000', 'latin1'), fields, Buffer.alloc(14), name]);
  const end = Buffer.alloc(22);
  end.write('PK\u0005\u0006', 'latin1');
  end.writeUInt16LE(1, 8);
  end.writeUInt16LE(1, 10);
  end.writeUInt32LE(entry.length, 12);
  end.writeUInt32LE(local.length, 16);
  return new Uint8Array(Buffer.concat([local, entry, end]));
}

type Rows = readonly (readonly unknown[])[];

/** A workbook as another program writes it: SheetJS (xlsx 0.18.5 from the npm registry). */
export function writeWorkbook(sheets: Readonly<Record<string, Rows>>, { isFrom1904 = false } = {}): Uint8Array {
  const workbook = XLSX.utils.book_new();
  for (const [name, rows] of Object.entries(sheets))
    XLSX.utils.book_append_sheet(workbook, XLSX.utils.aoa_to_sheet(rows as unknown[][], { cellDates: true }), name);
  workbook.Workbook = { WBProps: { date1904: isFrom1904 } };
  return new Uint8Array(XLSX.write(workbook, { type: 'array', bookType: 'xlsx' }) as ArrayBuffer);
}

/** Entities that would unfold to 10⁹ words (“billion laughs”, 2003; from memory). */
export const LAUGHS = `<?xml version="1.0"?><!DOCTYPE lolz [<!ENTITY a "lol">${Array.from(
  { length: 9 },
  (_, i) => `<!ENTITY ${'bcdefghij'[i] ?? ''} "${`&${'abcdefghi'[i] ?? ''};`.repeat(10)}">`,
).join('')}]><definitions>&j;</definitions>`;

/** An entity that would read a file of the server (OWASP, XML External Entity). */
export const OUTSIDE =
  '<?xml version="1.0"?><!DOCTYPE x [<!ENTITY f SYSTEM "file:///etc/passwd">]><definitions><process name="&f;"/></definitions>';

/** A workbook with the XML of its first sheet changed by hand, to what no program would write. */
export function writeOddSheet(change: (xml: string) => string): Uint8Array {
  const parts = unzipSync(
    writeWorkbook({ List: [['Code', 'Name', 'Step'], ...Array.from({ length: 5 }, (_, i) => [`C-${i}`, 'N', 'Click Save'])] }),
  );
  const sheet = 'xl/worksheets/sheet1.xml';
  return zipSync({ ...parts, [sheet]: strToU8(change(strFromU8(parts[sheet]!))) }, { level: 1 });
}

export const merge =
  (...ranges: readonly string[]) =>
  (xml: string) =>
    xml.replace('</sheetData>', `</sheetData><mergeCells>${ranges.map((ref) => `<mergeCell ref="${ref}"/>`).join('')}</mergeCells>`);

/** Empty cells with a format, from column D to the last one, in so many rows. */
export const formatCells = (rows: number) => (xml: string) => {
  const row = Array.from({ length: 16_000 }, () => '<c s="1"/>').join('');
  return xml.replace('</sheetData>', `${Array.from({ length: rows }, (_, i) => `<row r="${i + 20}">${row}</row>`).join('')}</sheetData>`);
};

const BPMN = 'xmlns="http://www.omg.org/spec/BPMN/20100524/MODEL"';

/** Processes of which each calls the next twice: 2 to the power of so many when unfolded. */
export const writeDoublingCalls = (deep: number) =>
  `<definitions ${BPMN} id="d" targetNamespace="x">${Array.from(
    { length: deep },
    (_, i) =>
      `<process id="p${i}" name="P${i}">${['a', 'b'].map((side) => `<callActivity id="c${i}${side}" name="C" calledElement="p${i + 1}"/>`).join('')}</process>`,
  ).join('')}<process id="p${deep}" name="Last"><task id="t" name="T"/></process></definitions>`;

export const writeNestedSubprocesses = (deep: number) =>
  `<definitions ${BPMN} id="d" targetNamespace="x"><process id="p" name="P">${Array.from({ length: deep }, (_, i) => `<subProcess id="s${i}" name="S${i}">`).join('')}<task id="t" name="T"/>${'</subProcess>'.repeat(deep)}</process></definitions>`;
