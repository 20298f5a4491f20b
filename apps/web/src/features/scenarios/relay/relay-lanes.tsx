import type { RelayLane } from '@kindred-baton/core/scenarios/relay';
import { countOf } from '../../../ui/format.ts';

export const NO_TEAM = 'No team yet';

interface RelayLanesProps {
  readonly lanes: readonly RelayLane[];
  /** Drawn smaller, the heads stay as large as their rows allow. */
  readonly scale: number;
  readonly onFold: (lane: string) => void;
}

/** The rows, with their heads that stay when the relay is scrolled; a head folds its lane. */
export function RelayLanes({ lanes, scale, onFold }: RelayLanesProps) {
  return lanes.map((lane, index) => (
    <div
      key={lane.name}
      className={`absolute inset-x-0 border-t border-line ${index % 2 === 0 ? 'bg-(--row-even)' : 'bg-(--row-odd)'}`}
      style={{ top: lane.y, height: lane.height }}
    >
      <button
        type="button"
        aria-expanded={!lane.isFolded}
        title={lane.isFolded ? `Unfold ${lane.name}` : `Fold ${lane.name}`}
        className="sticky left-0 z-10 block h-full w-[114px] bg-inherit px-3 text-left align-top hover:underline"
        onClick={() => onFold(lane.name)}
      >
        <span className={`flex h-full flex-col ${lane.isFolded ? 'justify-center' : 'pt-3'}`}>
          <b
            className={`leading-[1.2] break-words ${lane.isFolded ? 'truncate' : 'line-clamp-2'}`}
            style={{ fontSize: Math.min(lane.isFolded ? 14 : 24, 14 / Math.min(1, scale)) }}
          >
            {lane.name}
          </b>
          {!lane.isFolded && scale > 0.6 && <span className="text-[13px] text-soft">{countOf(lane.legs, 'leg')}</span>}
        </span>
      </button>
    </div>
  ));
}
