import { readScenarioBpmn } from '../bpmn/read-scenario-bpmn.ts';
import { decodeText } from '../tables/read-csv.ts';
import { readTables } from '../tables/read-tables.ts';
import type { TableFile } from '../tables/text-tables.ts';
import type { ScenarioReading } from './scenario-tables.ts';
import { readScenarioTables } from './scenario-tables.ts';

/** Reads a scenario by what the file holds: BPMN, or a workbook with the sheet Legs. Never throws. */
export async function readScenarioFromFile(file: TableFile): Promise<ScenarioReading> {
  const start =
    decodeText(file.bytes.subarray(0, 1_000))
      ?.replace(/^\ufeff/, '')
      .trimStart() ?? '';
  if (start.startsWith('<')) return readScenarioBpmn(file.bytes);
  const tables = await readTables(file);
  return tables.ok ? readScenarioTables(tables.tables) : tables;
}
