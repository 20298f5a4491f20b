import type { ProgressFileQuery } from '@kindred-baton/contracts/progress/file';
import type { OutTable } from '@kindred-baton/formats/tables/write-tables';
import { writeCsv } from '@kindred-baton/formats/tables/write-tables';
import { doAside } from '../../aside/do-aside.ts';
import { answerFile, MEDIA_TYPES } from '../../answer-file.ts';
import type { Call } from '../../call.ts';
import { toCourseSheet } from './sheets/course-sheet.ts';
import { toDefectsSheet } from './sheets/defects-sheet.ts';
import { toEffortSheet } from './sheets/effort-sheet.ts';
import { toStepsSheet } from './sheets/steps-sheet.ts';
import { toTeamsSheet } from './sheets/teams-sheet.ts';
import { toWhereSheet } from './sheets/where-sheet.ts';

type View = ProgressFileQuery['view'];
type Asking = Pick<Call, 'ask' | 'actor'>;

/** Each view as one flat sheet. */
const SHEETS: { readonly [V in View]: (asking: Asking, query: Extract<ProgressFileQuery, { view: V }>) => Promise<OutTable> } = {
  ...{ where: toWhereSheet, course: toCourseSheet, teams: toTeamsSheet },
  ...{ effort: toEffortSheet, steps: toStepsSheet, defects: toDefectsSheet },
};

/** A view of progress as it is looked at, to take away. */
export async function answerProgressFile({ ask, actor, input }: Call<object, ProgressFileQuery>): Promise<Response> {
  const write = SHEETS[input.view] as (asking: Asking, query: ProgressFileQuery) => Promise<OutTable>;
  const table = await write({ ask, actor }, input);
  const bytes = input.format === 'csv' ? writeCsv(table) : await doAside('write workbook', [table]);
  // The cycle stands first in every sheet.
  const cycle = String(table.rows[0]?.[0] ?? 'none').replace(/[^\w.-]+/g, '-');
  return answerFile(bytes, { name: `progress-${input.view}-${cycle}.${input.format}`, mediaType: MEDIA_TYPES[input.format] });
}
