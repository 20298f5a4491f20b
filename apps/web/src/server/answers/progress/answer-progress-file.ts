import type { progressFileQuerySchema, ProgressView } from '@kindred-baton/contracts/progress/progress';
import { AppError } from '@kindred-baton/contracts/errors';
import { getStatusLabel, TURN_STATUSES } from '@kindred-baton/core/outcomes';
import { getCountedLabel } from '@kindred-baton/core/progress/counted';
import { getFacetLabel } from '@kindred-baton/core/progress/facet';
import type { Counts } from '@kindred-baton/core/progress/tally';
import { getPassShare, getRunShare, NO_COUNTS, sumCounts } from '@kindred-baton/core/progress/tally';
import type { OutTable } from '@kindred-baton/formats/tables/write-tables';
import { writeCsv } from '@kindred-baton/formats/tables/write-tables';
import { getWholeTable, MOST_TAKEN } from '@kindred-baton/store/progress/get-progress';
import type { z } from 'zod';
import { doAside } from '../../aside/do-aside.ts';
import { answerFile, MEDIA_TYPES } from '../../answer-file.ts';
import type { Call } from '../../call.ts';

type Wanted = z.output<typeof progressFileQuerySchema>;

/** More lines than these are no sheet that opens. */
const MOST_LINES = 50_000;

/** The table of progress as one flat sheet: a line for each cell, and for the sums of rows, columns and all. */
export async function answerProgressFile({ ask, input: { format, ...query } }: Call<object, Wanted>): Promise<Response> {
  const view = await ask(getWholeTable, query);
  const { rows, columns, cells } = view;
  if (rows.size > MOST_TAKEN.rows || columns.size > MOST_TAKEN.columns || cells.length > MOST_LINES)
    throw new AppError(
      'invalid',
      `This table has ${rows.size.toLocaleString('en')} rows and ${columns.size.toLocaleString('en')} columns, more than a sheet holds. Narrow it, or take the turns themselves.`,
    );
  const table = toSheet(view, getCountedLabel(query.counted));
  const bytes = format === 'csv' ? writeCsv(table) : await doAside('write workbook', [table]);
  const name = `progress-${view.chosen.map(({ code }) => code).join('-') || 'none'}.${format}`;
  return answerFile(bytes, { name, mediaType: MEDIA_TYPES[format] });
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
