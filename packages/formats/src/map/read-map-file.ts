import type { ImportProblem } from '@kindred-baton/core/tables/place';
import type { MapEntry, MapMapping } from '@kindred-baton/core/imports/map-table';
import { guessMapMapping, readMapTable } from '@kindred-baton/core/imports/map-table';
import type { TextTable } from '@kindred-baton/core/tables/text-table';
import { readBpmn } from '../bpmn/read-bpmn.ts';
import { decodeText } from '../tables/read-csv.ts';
import type { TableFile } from '../tables/text-tables.ts';
import { readTables } from '../tables/read-tables.ts';
import { readMapJson } from './read-map-json.ts';

export interface MapFileReading {
  readonly format: 'table' | 'BPMN' | 'JSON';
  readonly entries: readonly MapEntry[];
  readonly problems: readonly ImportProblem[];
  readonly warnings: readonly string[];
  /** For tables: the sheets to choose from, the one that was read, and how its columns were taken. */
  readonly sheets: readonly string[];
  readonly table: TextTable | null;
  readonly mapping: MapMapping | null;
}

export interface MapFileOptions {
  readonly sheet?: string | undefined;
  readonly mapping?: MapMapping | undefined;
}

/** Reads a process list, by what the file holds: BPMN, JSON, a workbook or CSV. A file that cannot be read is one problem. */
export async function readMapFile(file: TableFile, { sheet, mapping }: MapFileOptions): Promise<MapFileReading> {
  const start =
    decodeText(file.bytes.subarray(0, 1_000))
      ?.replace(/^\ufeff/, '')
      .trimStart() ?? '';
  if (start.startsWith('<')) {
    const reading = await readBpmn(file.bytes);
    return reading.ok
      ? toReading('BPMN', reading.entries, [], reading.warnings)
      : toReading('BPMN', [], [toProblem(file, reading.message)]);
  }
  if (start.startsWith('{')) {
    const reading = readMapJson(file.bytes);
    return reading.ok ? toReading('JSON', reading.entries, []) : toReading('JSON', [], [toProblem(file, reading.message)]);
  }
  const tables = await readTables(file);
  if (!tables.ok) return toReading('table', [], [toProblem(file, tables.message)]);
  const table = tables.tables.find((candidate) => candidate.sheet === sheet) ?? tables.tables[0];
  if (!table) return toReading('table', [], [toProblem(file, 'The file has no rows.')]);
  const used = mapping ?? guessMapMapping(table);
  const { entries, problems } = readMapTable(table, used);
  return { ...toReading('table', entries, problems), sheets: tables.tables.map((each) => each.sheet), table, mapping: used };
}

const toProblem = (file: TableFile, message: string): ImportProblem => ({ sheet: file.name, message });

function toReading(
  format: MapFileReading['format'],
  entries: readonly MapEntry[],
  problems: readonly ImportProblem[],
  warnings: readonly string[] = [],
): MapFileReading {
  return { format, entries, problems, warnings, sheets: [], table: null, mapping: null };
}
