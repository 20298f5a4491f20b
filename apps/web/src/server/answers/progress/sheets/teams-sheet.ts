import type { TeamProgressQuery } from '@kindred-baton/contracts/progress/teams';
import { getStatusLabel, TURN_STATUSES } from '@kindred-baton/core/outcomes';
import { sumCounts } from '@kindred-baton/core/progress/tally';
import type { OutTable } from '@kindred-baton/formats/tables/write-tables';
import { getTeamProgress } from '@kindred-baton/store/progress/get-team-progress';
import type { Call } from '../../../call.ts';

/** Teams, or testers, side by side: a line each. */
export async function toTeamsSheet({ ask }: Pick<Call, 'ask'>, query: TeamProgressQuery): Promise<OutTable> {
  const { cycle, teams, each } = await ask(getTeamProgress, query);
  return {
    sheet: each === 'team' ? 'Teams' : 'Testers',
    headings: [
      ...['Cycle', each === 'team' ? 'Team' : 'Tester', 'Turns', ...TURN_STATUSES.map(getStatusLabel)],
      ...['Late', 'Turns that wait for it', 'Turns tried to the end', 'Minutes planned for them', 'Minutes spent on them'],
    ],
    rows: teams.map(({ name, counts, late, keeps, tried, planned, spent }) => [
      ...[cycle?.code ?? '', name, sumCounts(counts), ...TURN_STATUSES.map((status) => counts[status])],
      ...[late, keeps ?? '', tried, planned, Math.round(spent)],
    ]),
  };
}
