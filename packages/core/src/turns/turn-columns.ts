interface TurnColumnFacts {
  readonly word: string;
  /** Turns can be put in its order. */
  readonly isSorted: boolean;
  /** Turns with the same value can stand under it. */
  readonly isGroup: boolean;
  /** Shown where nothing else is chosen. */
  readonly isUsual: boolean;
}

/** The columns of a list of turns. Another is a row here, its order in store/src/turns/turn-orders.ts and its cell in web/features/turns/turn-table.tsx. */
const TURN_COLUMN_FACTS = {
  status: { word: 'Status', isSorted: true, isGroup: true, isUsual: true },
  turn: { word: 'Turn', isSorted: true, isGroup: false, isUsual: true },
  scenario: { word: 'Scenario', isSorted: true, isGroup: true, isUsual: true },
  team: { word: 'Team', isSorted: true, isGroup: true, isUsual: true },
  person: { word: 'With', isSorted: true, isGroup: true, isUsual: true },
  due: { word: 'Due', isSorted: true, isGroup: true, isUsual: true },
  waits: { word: 'What it waits for, or has', isSorted: false, isGroup: false, isUsual: true },
  minutes: { word: 'Planned', isSorted: true, isGroup: false, isUsual: false },
  changed: { word: 'Changed', isSorted: true, isGroup: false, isUsual: false },
  cycle: { word: 'Cycle', isSorted: true, isGroup: true, isUsual: false },
} as const satisfies Readonly<Record<string, TurnColumnFacts>>;
export type TurnColumn = keyof typeof TURN_COLUMN_FACTS;
type Having<Fact extends 'isSorted' | 'isGroup'> = {
  [Column in TurnColumn]: (typeof TURN_COLUMN_FACTS)[Column][Fact] extends true ? Column : never;
}[TurnColumn];
export type SortedColumn = Having<'isSorted'>;
export type GroupColumn = Having<'isGroup'>;

export const TURN_COLUMNS = Object.keys(TURN_COLUMN_FACTS) as [TurnColumn, ...TurnColumn[]];
export const SORTED_COLUMNS = TURN_COLUMNS.filter((column) => TURN_COLUMN_FACTS[column].isSorted) as [SortedColumn, ...SortedColumn[]];
export const GROUP_COLUMNS = TURN_COLUMNS.filter((column) => TURN_COLUMN_FACTS[column].isGroup) as [GroupColumn, ...GroupColumn[]];
export const USUAL_COLUMNS: readonly TurnColumn[] = TURN_COLUMNS.filter((column) => TURN_COLUMN_FACTS[column].isUsual);
export const getColumnLabel = (column: TurnColumn): string => TURN_COLUMN_FACTS[column].word;

/** A column up, or with a minus before it down. */
export type TurnSort = SortedColumn | `-${SortedColumn}`;
export const TURN_SORTS = SORTED_COLUMNS.flatMap((column) => [column, `-${column}`]) as [TurnSort, ...TurnSort[]];

export function readTurnSort(sort: TurnSort): { readonly column: SortedColumn; readonly isDown: boolean } {
  const isDown = sort.startsWith('-');
  return { column: (isDown ? sort.slice(1) : sort) as SortedColumn, isDown };
}

/** What pressing a column's heading sorts by: up, then down, then in the list's own order again. */
export function getNextSort(column: SortedColumn, sort: TurnSort | null): TurnSort | null {
  if (sort === column) return `-${column}`;
  return sort === `-${column}` ? null : column;
}

interface Grouped {
  readonly status: string;
  readonly scenario: { readonly code: string };
  readonly team: string | null;
  readonly assignee: string | null;
  readonly dueOn: string | null;
  readonly cycle: { readonly code: string };
}

/** Under what a turn stands; '' where it has no such value. */
export function getGroupKey(turn: Grouped, column: GroupColumn): string {
  const keys: Readonly<Record<GroupColumn, string>> = {
    ...{ status: turn.status, scenario: turn.scenario.code, team: turn.team ?? '', person: turn.assignee ?? '' },
    ...{ due: turn.dueOn ?? '', cycle: turn.cycle.code },
  };
  return keys[column];
}
