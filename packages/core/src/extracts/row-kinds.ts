/**
 * What a programme gives out as rows, one flat sheet each, ready to pivot: what each column is called, what it is, and what it says. Another column is a line
 * here and its cell in a file of store/src/rows, which does not compile without.
 */
type ColumnType = 'text' | 'number' | 'day' | 'moment';

export interface RowColumn {
  /** A day is YYYY-MM-DD of the programme, a moment ISO 8601 in UTC. */
  readonly type: ColumnType;
  readonly about: string;
}

const text = (about: string) => ({ type: 'text', about }) as const;
const number = (about: string) => ({ type: 'number', about }) as const;
const day = (about: string) => ({ type: 'day', about }) as const;
const moment = (about: string) => ({ type: 'moment', about }) as const;

/** Where a turn belongs: in each kind of rows that is of turns, in front. */
const OF_TURN = {
  turn: text('the turn’s own id'),
  cycle: text('code of the cycle'),
  purpose: text('what the cycle is for'),
  stream: text('the top of the map above it'),
  node_path: text('names from the top of the map to the turn’s node'),
  node: text('code of the node'),
  scenario: text('code of the scenario'),
  scenario_name: text('name of the scenario'),
  data_row: text('name of the data row'),
  run: number('number of the run in its cycle'),
  leg: number('place in the chain, from 1'),
  test: text('code of the test; empty at an open leg'),
  title: text('what the turn is called'),
  application: text('where the test is done'),
  priority: text('priority of the run'),
  team: text('team of the turn'),
} as const;

const ROW_KINDS = {
  turns: {
    word: 'Turns',
    columns: {
      ...OF_TURN,
      tester: text('with whom the turn is'),
      status: text('where it stands: its outcome once it has one'),
      version: number('version of the test that is pinned'),
      due_on: day('due day'),
      ready_at: moment('when its baton came'),
      done_at: moment('when its newest attempt ended'),
      planned_minutes: number('planned work'),
      attempts: number('attempts that ended'),
      defects: text('codes of the defects seen at it'),
    },
  },
  attempts: {
    word: 'Attempts',
    columns: {
      ...OF_TURN,
      attempt: text('the attempt’s own id'),
      number: number('which attempt at its turn, from 1'),
      by: text('person, or pool, that made it'),
      runner: text('machine that did it last; empty: by hand'),
      outcome: text('what it came to; empty: not ended'),
      started_at: moment('begin'),
      finished_at: moment('end'),
      environment: text('where it was done'),
      browser: text('with what'),
    },
  },
  steps: {
    word: 'Steps',
    columns: {
      ...OF_TURN,
      attempt: text('the attempt’s own id'),
      number: number('which attempt at its turn, from 1'),
      step: number('place of the step, from 1'),
      action: text('what is done'),
      target: text('to what'),
      outcome: text('what the step came to'),
      by: text('who said so'),
      runner: text('machine; empty: by hand'),
      expected: text('what a runner looked for'),
      actual: text('what it saw'),
      note: text('what was said of it'),
      recorded_at: moment('when it was said'),
      took_ms: number('how long a runner took, in milliseconds'),
    },
  },
  defects: {
    word: 'Defects',
    columns: {
      defect: text('code'),
      title: text('what is wrong'),
      kind: text('what kind of defect'),
      severity: text('how bad'),
      priority: text('how urgent'),
      status: text('where it stands'),
      cycle: text('code of the cycle in which it was found'),
      node_path: text('names from the top of the map to where it was seen'),
      node: text('code of that node'),
      team: text('team that fixes it'),
      assignee: text('who fixes it'),
      found_by: text('who found it'),
      found_at: moment('when it was found'),
      changed_at: moment('when it last changed'),
      due_on: day('due day'),
      turns: number('turns at which it was seen'),
    },
  },
} as const satisfies Readonly<Record<string, { readonly word: string; readonly columns: Readonly<Record<string, RowColumn>> }>>;
export type RowKind = keyof typeof ROW_KINDS;
export const ROW_KIND_NAMES = Object.keys(ROW_KINDS) as [RowKind, ...RowKind[]];
export type ColumnsOf<Kind extends RowKind> = keyof (typeof ROW_KINDS)[Kind]['columns'];
export type OfTurn = keyof typeof OF_TURN;
export const getRowKindLabel = (kind: RowKind): string => ROW_KINDS[kind].word;
export const listColumns = (kind: RowKind): readonly (RowColumn & { readonly name: string })[] =>
  Object.entries<RowColumn>(ROW_KINDS[kind].columns).map(([name, column]) => ({ name, ...column }));
