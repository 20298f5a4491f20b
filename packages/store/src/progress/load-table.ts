import type { ProgressAxis, ProgressQuery, ProgressView } from '@kindred-baton/contracts/progress/progress';
import { COLUMNS_A_PAGE, ROWS_A_PAGE } from '@kindred-baton/contracts/progress/progress';
import type { CycleId, NodeId } from '@kindred-baton/core/ids';
import type { TurnStatus } from '@kindred-baton/core/outcomes';
import { isWhole, WORST_FIRST } from '@kindred-baton/core/progress/counted';
import { isSortFor, sortLines } from '@kindred-baton/core/progress/sort-lines';
import type { Counts } from '@kindred-baton/core/progress/tally';
import { NO_COUNTS } from '@kindred-baton/core/progress/tally';
import { cutPage } from '@kindred-baton/core/tables/pages';
import type { SQL } from 'drizzle-orm';
import { and, eq, inArray, sql } from 'drizzle-orm';
import type { Tree } from '../map/load-tree.ts';
import type { ReadContext } from '../operation.ts';
import { readPacked } from '../read-packed.ts';
import { isAtNodes, isRunInScope } from '../runs/in-scope.ts';
import { cycles, runs } from '../schema/cycles.ts';
import { tests } from '../schema/tests.ts';
import { turns } from '../schema/turns.ts';
import { COUNTED_PARTS } from '../turns/counted.ts';
import { TURN_FACETS } from '../turns/facets.ts';
import type { FacetValue, LoadedFacet } from '../turns/facets/facet.ts';
import { listConditions } from '../turns/turn-filters.ts';

type Table = Pick<ProgressView, 'rows' | 'columns' | 'cells' | 'total'>;

export interface TableWanted {
  readonly cycleIds: readonly CycleId[];
  readonly query: ProgressQuery;
  readonly tree: Tree;
  /** Only turns at these nodes; null: all. */
  readonly nodes: readonly NodeId[] | null;
  /** How many rows and columns are a page; left out: as many as a screen has. */
  readonly page?: PageSize;
}

interface PageSize {
  readonly rows: number;
  readonly columns: number;
}

const ON_SCREEN: PageSize = { rows: ROWS_A_PAGE, columns: COLUMNS_A_PAGE };

/**
 * Turns, or what they are of, counted by two facets and their status. The database counts (decision 0038), the totals too: what stands under several values
 * of a facet is one in all (decision 0041).
 */
export async function loadTable(context: ReadContext, wanted: TableWanted): Promise<Table> {
  const { query, tree, page = ON_SCREEN } = wanted;
  const scope = (query.scope === undefined ? undefined : tree.byCode.get(query.scope)) ?? null;
  const [rows, columns] = await Promise.all([
    TURN_FACETS[query.rows].load(context, { tree, scope, as: sql`of_row` }),
    TURN_FACETS[query.columns].load(context, { tree, scope, as: sql`of_column` }),
  ]);
  const groups = await readPacked<Group>(context, {
    cells: { row: sql`row::text`, column: sql`col::text`, status: sql`status`, amount: sql`amount`, level: sql`level` },
    from: sql`from (${await countGroups(context, wanted, { rows, columns })}) as counted`,
  });
  return layOut(groups, { rows, columns, query, page });
}

interface Axes {
  readonly rows: LoadedFacet;
  readonly columns: LoadedFacet;
}

/** What a group counts over: a cell, a row, a column, or all. As grouping(row, col) numbers them. */
const LEVELS = { cell: 0, row: 1, column: 2, all: 3 } as const;

interface Group {
  readonly row: string | null;
  readonly column: string | null;
  readonly status: TurnStatus;
  readonly amount: number;
  readonly level: number;
}

async function countGroups(context: ReadContext, { cycleIds, query, nodes }: TableWanted, { rows, columns }: Axes): Promise<SQL> {
  const { unit, rank, weight } = COUNTED_PARTS[query.counted];
  const where = and(
    ...[inArray(turns.cycleId, [...cycleIds]), isRunInScope, isAtNodes(nodes)],
    ...(await listConditions(context, query, cycleIds)),
  );
  // As they are stored: texts are made of what was counted, not of what is.
  const counted = sql`select ${rows.value} as row, ${columns.value} as col, ${unit} as unit, ${turns.status} as status, ${rank} as rank, ${weight} as weight
    from ${turns} join ${runs} on ${eq(runs.id, turns.runId)} join ${cycles} on ${eq(cycles.id, turns.cycleId)} left join ${tests} on ${eq(tests.id, turns.testId)}
    ${rows.join} ${columns.join} where ${where}`;
  const by = (last: SQL) => sql`grouping sets ((row, col, ${last}), (row, ${last}), (col, ${last}), (${last}))`;
  if (!isWhole(query.counted) && !rows.isMany && !columns.isMany)
    return sql`select row, col, status, sum(amount)::int as amount, grouping(row, col) as level from (
        select row, col, status, sum(weight) as amount from (${counted}) as one group by 1, 2, 3
      ) as cells group by ${by(sql`status`)}`;
  return sql`select row, col, (${sql.param(WORST_FIRST)}::text[])[rank + 1] as status, sum(weight)::int as amount, level from (
      select row, col, unit, min(rank) as rank, max(weight) as weight, grouping(row, col) as level from (${counted}) as one group by ${by(sql`unit`)}
    ) as units group by row, col, rank, level`;
}

interface Line extends FacetValue {
  readonly value: string;
  readonly counts: Counts;
}

interface LaidOut extends Axes {
  readonly query: ProgressQuery;
  readonly page: PageSize;
}

function layOut(groups: readonly Group[], { rows, columns, query, page }: LaidOut): Table {
  const sort = query.sort !== undefined && isSortFor(query.sort, query.parts) ? query.sort : null;
  const rowLines = listLines(groups, LEVELS.row, rows);
  const rowPage = cutAxis(sort ? sortLines(rowLines, sort) : rowLines, query.fromRow, { of: page.rows, facet: rows });
  const columnPage = cutAxis(listLines(groups, LEVELS.column, columns), query.fromColumn, { of: page.columns, facet: columns });
  const cells = new Map<number, Partial<Record<TurnStatus, number>>>();
  for (const { row, column, status, amount, level } of groups) {
    const line = rowPage.placeOf.get(row ?? '');
    const place = columnPage.placeOf.get(column ?? '');
    if (level !== LEVELS.cell || line === undefined || place === undefined) continue;
    const cell = cells.get(line * page.columns + place) ?? {};
    cell[status] = amount;
    cells.set(line * page.columns + place, cell);
  }
  const shown = [...cells].map(([cell, counts]) => ({ row: Math.floor(cell / page.columns), column: cell % page.columns, counts }));
  const total = { ...NO_COUNTS };
  for (const { status, amount, level } of groups) if (level === LEVELS.all) total[status] = amount;
  return { rows: rowPage.axis, columns: columnPage.axis, cells: shown, total };
}

/** The values of a facet that turns have, in the facet's own order, each with what it counts. */
function listLines(groups: readonly Group[], level: number, { read }: LoadedFacet): Line[] {
  const countsOf = new Map<string, Record<TurnStatus, number>>();
  for (const group of groups) {
    if (group.level !== level) continue;
    const value = (level === LEVELS.row ? group.row : group.column) ?? '';
    const counts = countsOf.get(value) ?? { ...NO_COUNTS };
    counts[group.status] = group.amount;
    countsOf.set(value, counts);
  }
  return [...countsOf]
    .map(([value, counts]) => ({ ...read(value), value, counts }))
    .sort((a, b) => a.order - b.order || a.name.localeCompare(b.name, 'en') || (a.key < b.key ? -1 : 1));
}

/** The page in which the wanted place is. */
function cutAxis(lines: readonly Line[], wanted: number, { of, facet }: { readonly of: number; readonly facet: LoadedFacet }) {
  const { at, shown } = cutPage(lines, { page: Math.floor(wanted / of) + 1, of });
  const entries = shown.map(({ key, name, group, counts }) => ({ key, name, group, counts }));
  const axis: ProgressAxis = { facet: facet.facet, isMany: facet.isMany ?? false, from: at.from, size: at.size, entries };
  return { axis, placeOf: new Map(shown.map(({ value }, place) => [value, place])) };
}
