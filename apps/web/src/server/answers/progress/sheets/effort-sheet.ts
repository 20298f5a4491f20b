import type { EffortQuery } from '@kindred-baton/contracts/progress/effort';
import type { OutTable } from '@kindred-baton/formats/tables/write-tables';
import { getEffort } from '@kindred-baton/store/progress/get-effort';
import type { Call } from '../../../call.ts';

const HEADS = { team: 'Team', process: 'Process', day: 'Day' };

/** What turns were planned and took: a line for each cycle and team, process or day. */
export async function toEffortSheet({ ask }: Pick<Call, 'ask'>, query: EffortQuery): Promise<OutTable> {
  const { chosen, lines, totals } = await ask(getEffort, query);
  const all = { key: '', name: 'All', cells: totals };
  return {
    sheet: 'Effort',
    headings: ['Cycle', 'Key', HEADS[query.by], 'Turns tried to the end', 'Minutes planned', 'Minutes spent'],
    rows: [...lines, all].flatMap(({ key, name, cells }) =>
      cells.flatMap(({ tried, planned, spent }, at) =>
        tried === 0 ? [] : [[chosen[at]?.code ?? '', key, name, tried, planned, Math.round(spent)]],
      ),
    ),
  };
}
