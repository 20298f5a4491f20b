import type { TurnStatus } from '@kindred-baton/core/outcomes';
import { BatonMark } from '../../../ui/baton-mark.tsx';
import { getWord } from './guide-state.ts';
import type { AttemptRecorder } from './use-attempt.ts';

const MOST_SHOWN = 16;

/** A mark a step; many steps become a count. */
export function ProgressDots({ recorder }: { readonly recorder: AttemptRecorder }) {
  const { state, steps } = recorder;
  if (steps.length > MOST_SHOWN) return null;
  return (
    <div className="flex gap-1 px-4 pt-3" aria-hidden>
      {steps.map((_, index) => {
        const outcome = getWord(state, index).outcome;
        const status: TurnStatus = outcome ?? (index === state.index && state.screen === 'step' ? 'ready' : 'waiting');
        return (
          <span key={index} className="flex min-w-0 flex-1 *:w-full">
            <BatonMark status={status} isDecoration />
          </span>
        );
      })}
    </div>
  );
}
