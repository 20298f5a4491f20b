import type { ProgressQuery, ProgressView } from '@kindred-baton/contracts/progress/progress';
import { AppError } from '@kindred-baton/contracts/errors';
import { getStatusLabel, TURN_STATUSES } from '@kindred-baton/core/outcomes';
import { getCountedLabel } from '@kindred-baton/core/progress/counted';
import { getFacetLabel } from '@kindred-baton/core/progress/facet';
import type { Counts } from '@kindred-baton/core/progress/tally';
import { getPassShare, getRunShare, NO_COUNTS, sumCounts } from '@kindred-baton/core/progress/tally';
import type { OutTable } from '@kindred-baton/formats/tables/write-tables';
import { getWholeTable, MOST_TAKEN } from '@kindred-baton/store/progress/get-progress';
import type { Call } from '../../../call.ts';

/** More lines than these are no sheet that opens. */
const MOST_LINES = 50_000;

/** The table of progress: a line for each cell, and for the sums of rows, columns and all. */
export async function toWhereSheet({ ask }: Pick<Call, 'ask'>, query: ProgressQuery): Promise<OutTable> {
  const view = await ask(getWholeTable, query);
  const { rows, columns, cells } = view;
  if (rows.size > MOST_TAKEN.rows || columns.size > MOST_TAKEN.columns || cells.length > MOST_LINES)
    throw new AppError(
      'invalid',
      `This table has ${rows.size.toLocaleString('en')} rows and ${columns.size.toLocaleString('en')} columns, more than a sheet holds. Narrow it, or take the turns themselves.`,
    );
  return toSheet(view, getCountedLabel(query.counted));
}

function toSheet({ rows, columns, cells, total, chosen }: ProgressView, counted: string): OutTable {
  const cycle = chosen.map(({ code }) => code).join(', ');
  const line = (row: readonly [string, string], column: string, counts: Counts) => [
    ...[cycle, ...row, column, counted],
    ...TURN_STATUSES.map((status) => counts[status]),
    ...[sumCounts(counts), getRunShare(counts) ?? '', getPassShare(counts) ?? ''],
  ];
  const nameOf = ({ group, name }: { readonly group: string; readonly name: string }) => [group, name] as const;
  return {
    sheet: 'Progress',
    headings: [
      ...['Cycle', 'Group', getFacetLabel(rows.facet), getFacetLabel(columns.facet), 'Counted'],
      ...TURN_STATUSES.map(getStatusLabel),
      ...['All', 'Run of what is to run', 'Passed of what was run'],
    ],
    rows: [
      ...cells.flatMap(({ row, column, counts }) => {
        const [own, beside] = [rows.entries[row], columns.entries[column]];
        return own && beside ? [line(nameOf(own), beside.name, { ...NO_COUNTS, ...counts })] : [];
      }),
      ...rows.entries.map((own) => line(nameOf(own), ALL, own.counts)),
      ...columns.entries.map((own) => line(['', ALL], own.name, own.counts)),
      line(['', ALL], ALL, total),
    ],
  };
}

const ALL = 'All';
