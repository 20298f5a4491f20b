import { STEP_CHECKS } from '@kindred-baton/core/tests/step-checks';
/** The sheets and columns of an import workbook. docs/import.md and the template follow from this table. */
interface ColumnLayout {
  readonly heading: string;
  readonly isRequired?: boolean;
  readonly says: string;
}

export interface SheetLayout {
  readonly name: string;
  readonly isRequired: boolean;
  readonly says: string;
  readonly columns: readonly ColumnLayout[];
  /** Any further column is a value of the data row, named by its heading. */
  readonly hasValueColumns?: boolean;
}

export const SHEET_LAYOUTS = {
  processes: {
    name: 'Processes',
    isRequired: true,
    says: 'One row a node of the process map, in any order.',
    columns: [
      { heading: 'Code', isRequired: true, says: 'Unique in the programme, such as NS-2.1.' },
      { heading: 'Name', isRequired: true, says: 'What the business calls it.' },
      { heading: 'Parent', says: 'Code of the node above; empty for the top level.' },
      { heading: 'Team', says: 'A team of the programme, by its name; empty for a new node: that of the node above.' },
      { heading: 'Application', says: 'An application of the programme, by its name; empty for a new node: that of the node above.' },
      { heading: 'Critical', says: 'yes or no; empty for a new node: no.' },
      { heading: 'Description', says: 'Free text.' },
    ],
  },
  tests: {
    name: 'Tests',
    isRequired: true,
    says: 'One row a step. The first row of a test names it; leave Test empty, or repeat it, in the rows below.',
    columns: [
      { heading: 'Test', isRequired: true, says: 'Code of the test, unique in the programme.' },
      { heading: 'Name', says: 'Name of the test; in its first row.' },
      { heading: 'Activity', says: 'Code of the node where it belongs; in its first row.' },
      { heading: 'Team', says: 'Who does it; empty for a new test: the team of the activity.' },
      { heading: 'Application', says: 'Where it is done; empty for a new test: the application of the activity.' },
      { heading: 'Minutes', says: 'How long it takes a person; empty for a new test: two a step, at least five.' },
      {
        heading: 'Step',
        says: 'The step as a sentence, such as: Fill "Survey number" with {Survey no.}. Instead of the columns that follow.',
      },
      { heading: 'Do', says: 'go, fill, pick, press, see, keep or wait (open, click, enter, select, check, note … are understood).' },
      { heading: 'On', says: 'The thing on the screen.' },
      { heading: 'In', says: 'The part of the screen that holds it.' },
      { heading: 'Beside', says: 'What stands next to it.' },
      { heading: 'With', says: 'The value; {name} for one that comes in or was kept.' },
      { heading: 'Check', says: `Of see and wait, instead of showing the value: ${STEP_CHECKS.join(', ')}.` },
      { heading: 'Seconds', says: 'Of see and wait: how long it may take until it holds.' },
      { heading: 'You should see', says: 'The expected result.' },
      { heading: 'Keep as', says: 'The name under which the value is kept and handed on.' },
      { heading: 'Optional', says: 'yes when the step may be left out.' },
    ],
  },
  scenarios: {
    name: 'Scenarios',
    isRequired: true,
    says: 'One row a leg, in order. The first row of a scenario names it.',
    columns: [
      { heading: 'Scenario', isRequired: true, says: 'Code of the scenario, unique in the programme.' },
      { heading: 'Name', says: 'Name of the scenario; in its first row.' },
      { heading: 'Process', says: 'Code of the node that it belongs to; in its first row.' },
      { heading: 'Test', says: 'Code of the leg’s test, from this file or the library.' },
      { heading: 'Open leg', says: 'Instead of Test: in words, what is still to be written.' },
      { heading: 'Team', says: 'Who runs the leg; empty for a new leg: the test’s team.' },
    ],
  },
  values: {
    name: 'Values',
    isRequired: false,
    says: 'The type of a value that a test needs or gives. What is not listed is guessed from its name.',
    columns: [
      { heading: 'Test', isRequired: true, says: 'Code of a test of this file.' },
      { heading: 'Value', isRequired: true, says: 'The name used in its steps.' },
      { heading: 'Type', isRequired: true, says: 'text, whole number, number, money, date, choice or code.' },
      { heading: 'Choices', says: 'For a choice: the allowed values, separated by semicolons.' },
      { heading: 'Pattern', says: 'For a code: A letter, a lower-case letter, 9 digit, ? either, anything else itself.' },
      { heading: 'Example', says: 'One that is right.' },
    ],
  },
  rows: {
    name: 'Data rows',
    isRequired: false,
    says: 'One row a set of values for a scenario. Every further column is a value, named by its heading.',
    columns: [
      { heading: 'Scenario', isRequired: true, says: 'Code of a scenario of this file.' },
      { heading: 'Row', isRequired: true, says: 'Name of the data row.' },
    ],
    hasValueColumns: true,
  },
} as const satisfies Record<string, SheetLayout>;

export type SheetKey = keyof typeof SHEET_LAYOUTS;
