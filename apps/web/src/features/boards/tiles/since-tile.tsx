import { formatMoment } from '../../../ui/format.ts';
import { useAddress } from '../../frame/address-context.tsx';
import { useProgramme } from '../../frame/programme-context.tsx';
import { SinceFigures } from '../../progress/course/since-panel.tsx';
import { toTurnsPath } from '../../progress/to-turns-path.ts';
import type { TileProps } from './tile-props.ts';

/** What changed since the last working day; each number opens its turns. */
export function SinceTile({ answer }: TileProps<'since'>) {
  const { base, timeZone, nowMs } = useProgramme();
  const scope = useAddress().get('scope');
  return (
    <div className="card flex-1 px-4 py-3">
      <p className="text-[13px] text-soft" suppressHydrationWarning>
        Since {formatMoment(answer.since, timeZone, nowMs)}
      </p>
      <SinceFigures data={answer} toTurns={(filters) => toTurnsPath({ base, cycle: answer.cycle, scope, filters })} />
    </div>
  );
}
