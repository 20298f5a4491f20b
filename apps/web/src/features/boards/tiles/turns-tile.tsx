import { EmptyView } from '../../../ui/empty-view.tsx';
import { countOf, formatMinutes } from '../../../ui/format.ts';
import { TurnTable } from '../../turns/turn-table.tsx';
import type { TileProps } from './tile-props.ts';

const SHOWN = 8;

/** How many, and the first few. */
export function TurnsTile({ answer: { rows, turns, cycles, minutes } }: TileProps<'turns'>) {
  return (
    <div className="tile-inside">
      <p className="mb-2 text-[19px]">
        <strong className="text-[22px]">{countOf(rows.size, 'turn')}</strong>{' '}
        <span className="text-soft">
          {formatMinutes(minutes)} of work{rows.size > SHOWN && `; the first ${SHOWN}`}
        </span>
      </p>
      <div className="card overflow-x-auto px-2">
        {turns.length > 0 ? (
          <TurnTable turns={turns.slice(0, SHOWN)} hasCycles={cycles.length > 1} />
        ) : (
          <EmptyView title="No turn fits this slice" />
        )}
      </div>
    </div>
  );
}
