import type { ProgressAxis, ProgressQuery, ProgressView } from '@kindred-baton/contracts/progress/progress';
import { COLUMNS_A_PAGE, ROWS_A_PAGE } from '@kindred-baton/contracts/progress/progress';
import type { CycleId, NodeId } from '@kindred-baton/core/ids';
import type { TurnStatus } from '@kindred-baton/core/outcomes';
import { NO_COUNTS } from '@kindred-baton/core/progress/tally';
import { and, count, eq, sql } from 'drizzle-orm';
import type { ReadContext } from '../operation.ts';
import { readPacked } from '../read-packed.ts';
import { isAtNodes, isRunInScope } from '../runs/in-scope.ts';
import { runs } from '../schema/cycles.ts';
import { tests } from '../schema/tests.ts';
import { cutPage } from '@kindred-baton/core/tables/pages';
import { turns } from '../schema/turns.ts';
import type { FacetValue } from '../turns/facets.ts';
import { TURN_FACETS } from '../turns/facets.ts';

type Table = Pick<ProgressView, 'rows' | 'columns' | 'cells' | 'columnTotals' | 'total'>;

export interface TableWanted {
  readonly cycleId: CycleId;
  readonly query: ProgressQuery;
  /** Only turns at these nodes; null: all. */
  readonly nodes: readonly NodeId[] | null;
}

/**
 * Turns counted by two facets and their status. The database counts (decision 0038): what comes here is one line for each pair of values, however
 * many turns there are.
 */
export async function loadTable(context: ReadContext, { cycleId, query, nodes }: TableWanted): Promise<Table> {
  const [rowFacet, columnFacet] = [TURN_FACETS[query.rows], TURN_FACETS[query.columns]];
  const [groups, readRow, readColumn] = await Promise.all([
    readPacked<Group>(context, {
      cells: { row: sql`${rowFacet.column}::text`, column: sql`${columnFacet.column}::text`, status: turns.status, turns: count() },
      from: sql`from ${turns} join ${runs} on ${eq(runs.id, turns.runId)} left join ${tests} on ${eq(tests.id, turns.testId)}
        where ${and(eq(turns.cycleId, cycleId), isRunInScope, isAtNodes(nodes))}
        group by ${rowFacet.column}, ${columnFacet.column}, ${turns.status}`,
    }),
    rowFacet.load(context),
    columnFacet.load(context),
  ]);
  const rows = new Axis(readRow);
  const columns = new Axis(readColumn);
  for (const group of groups) {
    rows.meet(group.row ?? '');
    columns.meet(group.column ?? '');
  }
  return layOut(groups, { rows, columns, query });
}

/** The values of a facet that turns have, in the order in which they are shown. Several of what is grouped by may be one value: a process has many nodes. */
class Axis {
  readonly #read: (value: string) => FacetValue;
  readonly #valueOf = new Map<string, FacetValue>();
  readonly #byKey = new Map<string, FacetValue>();

  constructor(read: (value: string) => FacetValue) {
    this.#read = read;
  }

  meet(group: string): void {
    if (this.#valueOf.has(group)) return;
    const value = this.#read(group);
    this.#valueOf.set(group, value);
    this.#byKey.set(value.key, this.#byKey.get(value.key) ?? value);
  }

  getKey(group: string): string {
    return this.#valueOf.get(group)?.key ?? '';
  }

  list(): FacetValue[] {
    return [...this.#byKey.values()].sort((a, b) => a.order - b.order || a.name.localeCompare(b.name, 'en') || (a.key < b.key ? -1 : 1));
  }
}

interface Group {
  readonly row: string | null;
  readonly column: string | null;
  readonly status: TurnStatus;
  readonly turns: number;
}

interface Laying {
  readonly rows: Axis;
  readonly columns: Axis;
  readonly query: ProgressQuery;
}

function layOut(groups: readonly Group[], { rows, columns, query }: Laying): Table {
  const rowPage = cutAxis(rows.list(), query.fromRow, ROWS_A_PAGE);
  const columnPage = cutAxis(columns.list(), query.fromColumn, COLUMNS_A_PAGE);
  const [rowAt, columnAt] = [toPlaces(rowPage), toPlaces(columnPage)];
  const columnTotals = columnPage.entries.map(() => ({ ...NO_COUNTS }));
  const cells = new Map<number, Partial<Record<TurnStatus, number>>>();
  const total = { ...NO_COUNTS };
  for (const { row, column, status, turns: own } of groups) {
    total[status] += own;
    const place = columnAt.get(columns.getKey(column ?? '')) ?? -1;
    const columnTotal = columnTotals[place];
    if (!columnTotal) continue;
    columnTotal[status] += own;
    const line = rowAt.get(rows.getKey(row ?? ''));
    if (line === undefined) continue;
    const cell = cells.get(line * COLUMNS_A_PAGE + place) ?? {};
    cell[status] = (cell[status] ?? 0) + own;
    cells.set(line * COLUMNS_A_PAGE + place, cell);
  }
  const shown = [...cells].map(([cell, counts]) => ({ row: Math.floor(cell / COLUMNS_A_PAGE), column: cell % COLUMNS_A_PAGE, counts }));
  return { rows: rowPage, columns: columnPage, cells: shown, columnTotals, total };
}

/** The page in which the wanted place is. */
function cutAxis(all: readonly FacetValue[], wanted: number, of: number): ProgressAxis {
  const { at, shown } = cutPage(all, { page: Math.floor(wanted / of) + 1, of });
  return { from: at.from, size: at.size, entries: shown.map(({ key, name, group }) => ({ key, name, group })) };
}

const toPlaces = ({ entries }: ProgressAxis) => new Map(entries.map(({ key }, place) => [key, place]));
