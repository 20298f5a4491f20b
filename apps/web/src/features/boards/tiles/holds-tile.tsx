import { describeHolds, HoldLines } from '../../progress/hold-list.tsx';
import type { TileProps } from './tile-props.ts';

const SHOWN = 6;

/** The holds behind which most wait. */
export function HoldsTile({ answer }: TileProps<'holds'>) {
  const more = answer.held - Math.min(SHOWN, answer.holds.length);
  return (
    <div className="card flex-1">
      <p className="px-4 pt-3 pb-1 text-[17px] font-bold">{describeHolds(answer)}</p>
      <HoldLines holds={answer.holds.slice(0, SHOWN)} cycle={answer.cycle} />
      {more > 0 && <p className="border-t border-line-2 px-4 py-2 text-[13px] text-soft">and {more.toLocaleString('en')} more</p>}
    </div>
  );
}
