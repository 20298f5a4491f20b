import type { ImportedLeg, ImportedScenario } from '@kindred-baton/core/imports/workbook-sheets';
import type { ImportProblem } from '@kindred-baton/core/tables/place';
import { groupByHead } from './group-by-head.ts';
import type { Part } from './read-cells.ts';
import { createRowReader } from './read-cells.ts';
import type { TableRow } from './read-table.ts';

/** One row a leg, in order. */
export function readScenarioRows(rows: readonly TableRow[]): Part<ImportedScenario> {
  const problems: ImportProblem[] = [];
  const items = groupByHead(rows, 'Scenario', problems).map(({ head, members }) => {
    const read = createRowReader(head, problems);
    return {
      place: head.place,
      code: read.code('Scenario'),
      name: read.required('Name'),
      process: read.required('Process'),
      legs: members.flatMap((row) => readLeg(row, problems)),
    };
  });
  return { items, problems };
}

function readLeg(row: TableRow, problems: ImportProblem[]): ImportedLeg[] {
  const read = createRowReader(row, problems);
  const test = read.optional('Test');
  const title = row.text('Open leg');
  if (test !== null && title !== '') read.fail('Open leg', 'A leg has a test, or is open; both are filled in here.');
  if (test === null && title === '') read.fail('Test', 'The leg has no test. Name one, or say in Open leg what is to be written.');
  return test === null && title === '' ? [] : [{ place: row.place, test, title, team: read.optional('Team') }];
}
