import type { ImportedStep, ImportedTest } from '@kindred-baton/core/imports/workbook-sheets';
import type { ImportProblem } from '@kindred-baton/core/tables/place';
import { parseStep } from '@kindred-baton/core/tests/parse-step';
import { findAction } from '@kindred-baton/core/tests/step-verbs';
import { normalizeStep } from '@kindred-baton/core/tests/step';
import { STEP_CHECKS } from '@kindred-baton/core/tests/step-checks';
import type { Step } from '@kindred-baton/core/tests/step';
import type { Part } from './read-cells.ts';
import { createRowReader } from './read-cells.ts';
import { groupByHead } from './group-by-head.ts';
import type { TableRow } from './read-table.ts';

/** One row a step; a test begins where a new code stands in the Test column. */
export function readTestRows(rows: readonly TableRow[]): Part<ImportedTest> {
  const problems: ImportProblem[] = [];
  const items = groupByHead(rows, 'Test', problems).map(({ head, members }) => {
    const read = createRowReader(head, problems);
    return {
      place: head.place,
      code: read.code('Test'),
      name: read.required('Name'),
      activity: read.required('Activity'),
      team: read.optional('Team'),
      application: read.optional('Application'),
      minutes: read.wholeNumber('Minutes'),
      steps: members.flatMap((row) => readStep(row, problems)),
    };
  });
  return { items, problems };
}

const STEP_COLUMNS = ['Do', 'On', 'In', 'Beside', 'With', 'Check', 'Seconds', 'You should see', 'Keep as'];

function readStep(row: TableRow, problems: ImportProblem[]): ImportedStep[] {
  const read = createRowReader(row, problems);
  const sentence = row.text('Step');
  const filled = STEP_COLUMNS.filter((column) => row.text(column) !== '');
  if (sentence === '' && filled.length === 0) return [];
  if (sentence !== '' && filled.length > 0) {
    read.fail('Step', `The step is told twice, as a sentence and in the column ${filled[0]}. Keep one.`);
    return [];
  }
  const step = sentence === '' ? readStepCells(row, read) : readSentence(sentence, read);
  return step ? [{ place: row.place, step }] : [];
}

type Reader = ReturnType<typeof createRowReader>;

function readSentence(sentence: string, read: Reader): Step | undefined {
  const reading = parseStep(sentence);
  if (reading.ok) return reading.step;
  read.fail('Step', reading.message);
  return undefined;
}

function readStepCells(row: TableRow, read: Reader): Step | undefined {
  const word = read.required('Do');
  const action = findAction(word);
  if (word !== '' && !action) read.fail('Do', `“${word}” is not something a step does. Known: go, fill, pick, press, see, keep, wait.`);
  const target = read.required('On');
  const said = row.text('Check').trim().toLowerCase();
  const check = STEP_CHECKS.find((one) => one === said);
  if (said !== '' && !check) read.fail('Check', `“${said}” is not something that is checked. Known: ${STEP_CHECKS.join(', ')}.`);
  const seconds = read.wholeNumber('Seconds') ?? undefined;
  if (!action || target === '') return undefined;
  return normalizeStep({
    do: action,
    target,
    within: row.text('In'),
    beside: row.text('Beside'),
    value: row.text('With'),
    check,
    seconds,
    expect: row.text('You should see'),
    keepAs: row.text('Keep as'),
    optional: read.yesNo('Optional') ?? false,
  });
}
