import { useAddress } from '../../frame/address-context.tsx';
import { describeHolds, HoldLines, OverAll } from '../../progress/hold-list.tsx';
import { readTableQuery } from '../../progress/table-query.ts';
import type { TileProps } from './tile-props.ts';

const SHOWN = 6;

/** The holds behind which most wait. */
export function HoldsTile({ answer }: TileProps<'holds'>) {
  const { narrowed } = readTableQuery(useAddress().get);
  const more = answer.held - Math.min(SHOWN, answer.holds.length);
  return (
    <div className="card flex-1">
      <div className="px-4 pt-3 pb-1">
        <p className="text-[17px] font-bold">{describeHolds(answer)}</p>
        {narrowed.length > 0 && <OverAll />}
      </div>
      <HoldLines holds={answer.holds.slice(0, SHOWN)} cycle={answer.cycle} />
      {more > 0 && <p className="border-t border-line-2 px-4 py-2 text-[13px] text-soft">and {more.toLocaleString('en')} more</p>}
    </div>
  );
}
