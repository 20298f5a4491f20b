import { printStep } from '@kindred-baton/core/tests/print-step';
import type { OutTable } from '../tables/write-tables.ts';
import type { ExportedTest } from '@kindred-baton/core/imports/exported-test';
import { listInputs } from '@kindred-baton/core/imports/exported-test';

const HEADINGS = [
  'Test',
  'Name',
  'Activity',
  'Team',
  'Application',
  'Priority',
  'Tags',
  'Minutes',
  'No.',
  'Step',
  'Expected',
  'Outcome',
  'Seen',
  'Tester',
  'Date',
];
const WIDTHS = [12, 30, 12, 14, 18, 10, 16, 9, 6, 52, 42, 12, 30, 16, 12];
const RESULTS = ['', '', '', ''];

/** One row a step, with empty columns for what comes of it; data rows on a sheet of their own. Reading it again gives the same tests. */
export function toTestTables(tests: readonly ExportedTest[]): OutTable[] {
  return [toStepTable(tests), ...toRowTables(tests)];
}

/** The steps alone, for CSV, which has one table. */
export function toStepTable(tests: readonly ExportedTest[]): OutTable {
  return {
    ...{ sheet: 'Tests', headings: HEADINGS, widths: WIDTHS },
    rows: tests.flatMap(({ code, name, activity, team, application, priority, tags, minutes, steps }) =>
      steps.map(({ expect, ...step }, index) => [
        ...[code, name, activity, team ?? '', application ?? '', priority, tags.join(', '), minutes],
        ...[index + 1, printStep(step), expect ?? '', ...RESULTS],
      ]),
    ),
  };
}

function toRowTables(tests: readonly ExportedTest[]): OutTable[] {
  const withRows = tests.filter(({ rows }) => rows.length > 0);
  if (withRows.length === 0) return [];
  const inputs = [...new Set(withRows.flatMap(listInputs))];
  return [
    {
      sheet: 'Data rows',
      headings: ['Test', 'Data row', 'As', ...inputs],
      rows: withRows.flatMap(({ code, rows }) =>
        rows.map(({ name, as, values }) => [code, name, as ?? '', ...inputs.map((input) => values[input] ?? '')]),
      ),
    },
  ];
}
