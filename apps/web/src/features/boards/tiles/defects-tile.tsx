import { EmptyView } from '../../../ui/empty-view.tsx';
import { DefectsChart, DefectsHeadline } from '../../progress/defects/defects-view.tsx';
import type { TileProps } from './tile-props.ts';

const keepNothing = () => undefined;

/** The picture of the defects, with its first line. */
export function DefectsTile({ answer }: TileProps<'defects'>) {
  if (!answer.cycle || answer.all.found === 0)
    return (
      <div className="card flex-1">
        <EmptyView title="No defect was found here" />
      </div>
    );
  return (
    <div className="card flex-1 px-1 pt-3">
      <div className="px-3">
        <DefectsHeadline view={answer} />
      </div>
      <DefectsChart view={answer} cycle={answer.cycle.code} onReady={keepNothing} />
    </div>
  );
}
