import { EmptyView } from '../../../ui/empty-view.tsx';
import { TeamsHeadline, TeamTable } from '../../progress/teams-view.tsx';
import type { TileProps } from './tile-props.ts';

export function TeamsTile({ answer: { cycle, teams, each } }: TileProps<'teams'>) {
  if (!cycle || teams.length === 0)
    return (
      <div className="card flex-1">
        <EmptyView title="No team has turns here" />
      </div>
    );
  return (
    <div className="tile-inside">
      <TeamsHeadline teams={teams} each={each} />
      <TeamTable teams={teams} cycle={cycle.code} each={each} />
    </div>
  );
}
