import type { ColumnMap } from '@kindred-baton/core/tables/guess-columns';
import type { ImportProblem } from '@kindred-baton/core/tables/place';
import type { TextTable } from '@kindred-baton/core/tables/text-table';
import type { StoredRequirement } from '@kindred-baton/core/imports/compare-requirements';
import type { RequirementEntry, RequirementField } from '@kindred-baton/core/imports/requirement-table';
import { guessRequirementColumns, readRequirementTable } from '@kindred-baton/core/imports/requirement-table';
import { decodeText } from '../tables/read-csv.ts';
import type { TableFile } from '../tables/text-tables.ts';
import { readTables } from '../tables/read-tables.ts';
import type { OutTable } from '../tables/write-tables.ts';
import { readReqif } from './read-reqif.ts';

export interface RequirementFileReading {
  readonly entries: readonly RequirementEntry[];
  readonly problems: readonly ImportProblem[];
  readonly sheets: readonly string[];
  readonly table: TextTable | null;
  readonly columns: ColumnMap<RequirementField>;
}

/** Reads a list of requirements from ReqIF, XLSX or CSV. A file that cannot be read is one problem. */
export async function readRequirementFile(
  file: TableFile,
  { sheet, columns: mapped }: { readonly sheet?: string | undefined; readonly columns?: ColumnMap<RequirementField> | undefined },
): Promise<RequirementFileReading> {
  const start =
    decodeText(file.bytes.subarray(0, 1_000))
      ?.replace(/^\ufeff/, '')
      .trimStart() ?? '';
  const tables = start.startsWith('<') ? readReqif(file.bytes) : await readTables(file);
  const problem = (message: string) => ({ entries: [], problems: [{ sheet: file.name, message }], sheets: [], table: null, columns: {} });
  if (!tables.ok) return problem(tables.message);
  const table = tables.tables.find((candidate) => candidate.sheet === sheet) ?? tables.tables[0];
  if (!table) return problem('The file has no rows.');
  const columns = mapped ?? guessRequirementColumns(table);
  return { ...readRequirementTable(table, columns), sheets: tables.tables.map((each) => each.sheet), table, columns };
}

/** Requirements as a table; reading it again gives the same. */
export function toRequirementTable(requirements: readonly StoredRequirement[]): OutTable {
  return {
    sheet: 'Requirements',
    headings: ['Code', 'Requirement', 'Description', 'Kind', 'Priority', 'Processes', 'Tests'],
    widths: [12, 60, 60, 14, 10, 24, 30],
    rows: requirements.map(({ code, title, description, kind, priority, nodes, tests }) => [
      ...[code, title, description, kind, priority],
      ...[nodes.join(' '), tests.join(' ')],
    ]),
  };
}
