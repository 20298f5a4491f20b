import { readImport } from '@kindred-baton/formats/import/read-import';
import type { MapFileOptions } from '@kindred-baton/formats/map/read-map-file';
import { readMapFile } from '@kindred-baton/formats/map/read-map-file';
import { readRequirementFile } from '@kindred-baton/formats/requirements/requirement-files';
import { readScenarioFromFile } from '@kindred-baton/formats/scenarios/read-scenario-file';
import type { TableFile } from '@kindred-baton/formats/tables/text-tables';
import type { TestFileOptions } from '@kindred-baton/formats/tests/read-test-file';
import { readTestFile } from '@kindred-baton/formats/tests/read-test-file';
import { readTurnSheet } from '@kindred-baton/formats/turns/turn-sheet';
import { readDataRows } from './read-data-rows.ts';
import { toColumns } from './to-columns.ts';

type RequirementOptions = Parameters<typeof readRequirementFile>[1];

/** Everything that reads what people bring. Of a table only what is shown of its columns is given, not its rows. Adding one: a line here. */
export const READERS = {
  map: async (file: TableFile, options: MapFileOptions) => {
    const { table, sheets, ...reading } = await readMapFile(file, options);
    return { ...reading, columns: table && toColumns(table, sheets) };
  },
  requirements: async (file: TableFile, options: RequirementOptions) => {
    const { table, sheets, ...reading } = await readRequirementFile(file, options);
    return { ...reading, columns: table && toColumns(table, sheets), taken: reading.columns };
  },
  tests: async (file: TableFile, options: TestFileOptions) => {
    const { table, sheets, ...reading } = await readTestFile(file, options);
    return { ...reading, columns: table && toColumns(table, sheets) };
  },
  'data rows': readDataRows,
  workbook: ({ bytes }: TableFile) => readImport(bytes),
  scenario: (file: TableFile) => readScenarioFromFile(file),
  'turn sheet': (file: TableFile) => readTurnSheet(file),
} as const;
