import { EmptyView } from '../../../ui/empty-view.tsx';
import { StepsHeadline, StepTable } from '../../progress/wrong-steps-view.tsx';
import { ThingTable } from '../../progress/wrong-things.tsx';
import type { TileProps } from './tile-props.ts';

const SHOWN = 5;

/** The worst few steps. */
export function StepsTile({ answer }: TileProps<'steps'>) {
  if (answer.wrong.length + answer.things.length === 0)
    return (
      <div className="card flex-1">
        <EmptyView title={answer.tries === 0 ? 'Nothing was tried yet' : 'Nothing went wrong'} />
      </div>
    );
  return (
    <div className="tile-inside">
      <StepsHeadline view={answer} />
      {answer.each === 'step' ? (
        <StepTable view={{ ...answer, wrong: answer.wrong.slice(0, SHOWN) }} chosen={undefined} />
      ) : (
        <ThingTable view={{ ...answer, things: answer.things.slice(0, SHOWN) }} each={answer.each} />
      )}
    </div>
  );
}
