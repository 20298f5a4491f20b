import { EmptyView } from '../../../ui/empty-view.tsx';
import { StepsHeadline, StepTable } from '../../progress/wrong-steps-view.tsx';
import type { TileProps } from './tile-props.ts';

const SHOWN = 5;

/** The worst few steps. */
export function StepsTile({ answer }: TileProps<'steps'>) {
  if (answer.wrong.length === 0)
    return (
      <div className="card flex-1">
        <EmptyView title={answer.tries === 0 ? 'Nothing was tried yet' : 'Nothing went wrong'} />
      </div>
    );
  return (
    <div className="tile-inside">
      <StepsHeadline view={answer} />
      <StepTable view={{ ...answer, wrong: answer.wrong.slice(0, SHOWN) }} chosen={undefined} />
    </div>
  );
}
