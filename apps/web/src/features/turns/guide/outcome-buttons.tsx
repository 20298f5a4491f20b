import { isTrouble } from '@kindred-baton/core/outcomes';
import type { StepOutcome } from '@kindred-baton/core/outcomes';
import CirclePause from 'lucide-react/icons/circle-pause';
import SkipForward from 'lucide-react/icons/skip-forward';
import { BatonMark } from '../../../ui/baton-mark.tsx';
import { useProgramme } from '../../frame/programme-context.tsx';
import type { StepWord } from './guide-state.ts';
import type { AttemptRecorder } from './use-attempt.ts';

interface OutcomeButtonsProps {
  readonly word: StepWord;
  readonly recorder: AttemptRecorder;
  readonly onSay: (outcome: StepOutcome) => void;
  readonly onClear: () => void;
}

const BIG =
  'flex min-h-[42px] items-center justify-center gap-3 rounded-control font-bold text-on-outcome [&_.baton-mark]:border-transparent';

/** The key that says the same; a touch screen has none. */
const Key = ({ children }: { readonly children: string }) => (
  <kbd aria-hidden className="font-mono font-normal opacity-90 pointer-coarse:hidden">
    {children}
  </kbd>
);

/** How the step went. After a failure: what comes of it. */
export function OutcomeButtons({ word, recorder, onSay, onClear }: OutcomeButtonsProps) {
  const { can } = useProgramme();
  const { state, dispatch, steps } = recorder;
  const isTold = isTrouble(word.outcome);
  return (
    <div className="sticky bottom-0 grid gap-2 border-t border-line-2 bg-sheet px-4 py-3">
      {isTold ? (
        <AfterTrouble word={word} recorder={recorder} onSay={onSay} />
      ) : (
        <>
          <div className="grid grid-cols-2 gap-2">
            <button type="button" className={`${BIG} bg-passed`} onClick={() => onSay('passed')}>
              It worked <Key>1</Key>
            </button>
            <button type="button" className={`${BIG} bg-failed`} onClick={() => onSay('failed')}>
              It did not <Key>2</Key>
            </button>
          </div>
          <div className="grid grid-cols-2 gap-2">
            <button type="button" className="button" onClick={() => onSay('blocked')}>
              <CirclePause size={16} aria-hidden /> I cannot go on <Key>3</Key>
            </button>
            <button type="button" className="button" onClick={() => onSay('skipped')}>
              <SkipForward size={16} aria-hidden /> Leave it out <Key>4</Key>
            </button>
          </div>
        </>
      )}
      <div className="flex items-center justify-between text-[13px]">
        <button
          type="button"
          className="button button-quiet button-small"
          disabled={state.index === 0}
          onClick={() => dispatch({ kind: 'go', index: state.index - 1 })}
        >
          Back
        </button>
        {!isTold && can('log defects') && (
          <button type="button" className="button button-quiet button-small" onClick={() => dispatch({ kind: 'show', screen: 'defect' })}>
            Log a defect
          </button>
        )}
        {word.outcome !== null && (
          <button type="button" className="button button-quiet button-small" onClick={onClear}>
            <BatonMark status={word.outcome} isDecoration /> Clear
          </button>
        )}
        <button type="button" className="button button-quiet button-small" onClick={() => dispatch({ kind: 'show', screen: 'all' })}>
          All {steps.length} steps
        </button>
      </div>
    </div>
  );
}

function AfterTrouble({ word, recorder, onSay }: Pick<OutcomeButtonsProps, 'word' | 'recorder' | 'onSay'>) {
  const { can } = useProgramme();
  const { state, dispatch, steps } = recorder;
  const outcome = word.outcome ?? 'failed';
  const hasWords = word.note.trim() !== '';
  const isLast = state.index >= steps.length - 1;
  const then = (screen: 'defect' | 'finish') => {
    onSay(outcome);
    dispatch({ kind: 'show', screen });
  };
  return (
    <>
      <p className="flex items-center gap-2 font-semibold">
        <BatonMark status={outcome} isDecoration />
        {outcome === 'failed' ? 'It did not work; that is recorded.' : 'You cannot go on; that is recorded.'}{' '}
        {!hasWords && 'Say above what you saw.'}
      </p>
      {outcome === 'failed' && can('log defects') && (
        <button type="button" className={`${BIG} bg-failed disabled:opacity-55`} disabled={!hasWords} onClick={() => then('defect')}>
          Log a defect
        </button>
      )}
      <div className="grid grid-cols-2 gap-2">
        <button
          type="button"
          className="button"
          disabled={!hasWords || isLast}
          onClick={() => {
            onSay(outcome);
            dispatch({ kind: 'go', index: state.index + 1 });
          }}
        >
          Go on all the same
        </button>
        <button type="button" className="button" disabled={!hasWords} onClick={() => then('finish')}>
          Finish here
        </button>
      </div>
    </>
  );
}
