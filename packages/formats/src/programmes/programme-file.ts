import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';

type Row = Readonly<Record<string, unknown>>;

/** A programme as it is written: the same that store takes out and in (programmes/take-out). */
export interface ProgrammeFile {
  readonly schema: number;
  readonly programme: Row;
  readonly people: readonly Row[];
  readonly tables: Readonly<Record<string, readonly Row[]>>;
}

const FORMAT = 'Kindred Baton programme 1';
const MOST_UNPACKED_BYTES = 4 * 1024 ** 3;
const BYTES = /^\\x((?:[0-9a-f]{2})*)$/;

/**
 * An open file of a programme: a ZIP with `programme.json` (format, schema, the programme, its people), a JSON list of rows for each table in
 * `tables/`, and each picture or file of the evidence as it was, in `evidence/`, by the id of its row.
 */
export function writeProgrammeFile({ schema, programme, people, tables }: ProgrammeFile): Uint8Array {
  const files: Record<string, Uint8Array> = { 'programme.json': toJson({ format: FORMAT, schema, programme, people }) };
  for (const [name, rows] of Object.entries(tables)) {
    if (name !== 'evidence') files[`tables/${name}.json`] = toJson(rows);
    else files['tables/evidence.json'] = toJson(rows.map((row) => moveContent(row, files)));
  }
  return zipSync(files, { level: 6 });
}

const toJson = (value: unknown) => strToU8(JSON.stringify(value, null, 1));

/** The bytes go into a file of their own; the row says where. */
function moveContent({ content, ...row }: Row, files: Record<string, Uint8Array>): Row {
  const path = `evidence/${String(row['id'])}`;
  files[path] = Buffer.from(BYTES.exec(String(content))?.[1] ?? '', 'hex');
  return row;
}

/** Reads the file again; a sentence where it is not one, or does not hold together. */
export function readProgrammeFile(
  bytes: Uint8Array,
): { readonly ok: true; readonly file: ProgrammeFile } | { readonly ok: false; readonly message: string } {
  const no = (message: string) => ({ ok: false as const, message });
  let unpacked = 0;
  try {
    const files = unzipSync(bytes, { filter: ({ originalSize }) => (unpacked += originalSize) <= MOST_UNPACKED_BYTES });
    if (unpacked > MOST_UNPACKED_BYTES)
      return no(`The file unpacks to more than ${MOST_UNPACKED_BYTES / 1024 ** 3} GB, which is the most that is read.`);
    const head = fromJson(files['programme.json']) as (ProgrammeFile & { readonly format?: unknown }) | undefined;
    if (head?.format !== FORMAT)
      return no('The file is no programme of Kindred Baton: there is no programme.json in it, or it says something else.');
    const tables: Record<string, Row[]> = {};
    for (const path of Object.keys(files)) {
      const name = /^tables\/([a-z_]+)\.json$/.exec(path)?.[1];
      if (name) tables[name] = fromJson(files[path]) as Row[];
    }
    for (const [at, row] of (tables['evidence'] ?? []).entries()) {
      const content = files[`evidence/${String(row['id'])}`];
      if (!content) return no(`The file lacks the evidence ${String(row['name'])}.`);
      tables['evidence']![at] = { ...row, content: `\\x${Buffer.from(content).toString('hex')}` };
    }
    const { schema, programme, people } = head;
    return { ok: true, file: { schema, programme, people, tables } };
  } catch (error) {
    return no(`The file is damaged: ${error instanceof Error ? error.message : String(error)}.`);
  }
}

const fromJson = (bytes: Uint8Array | undefined): unknown => (bytes ? JSON.parse(strFromU8(bytes)) : undefined);
