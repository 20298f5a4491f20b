import { fillStep } from '@kindred-baton/core/defects/describe-steps';
import { printStep } from '@kindred-baton/core/tests/print-step';
import { BatonMark } from '../../../ui/baton-mark.tsx';
import { GiveRest } from './give-rest.tsx';
import type { ScreenProps } from './guide-attempt.tsx';
import { countWords, getWord } from './guide-state.ts';

/** Every step with how it went; choosing one goes there. */
export function AllSteps(props: ScreenProps) {
  const { recorder, source, attempt } = props;
  const byOf = new Map(attempt.results.flatMap(({ stepIndex, by }) => (by === attempt.person ? [] : [[stepIndex, by] as const])));
  const { state, dispatch, steps } = recorder;
  const counts = countWords(state, steps.length);
  return (
    <div className="flex-1 px-4 py-3">
      <p className="mb-2 text-[13px] text-soft">
        {counts.worked} worked, {counts.didNot} did not, {counts.leftOut} left out, {counts.open} to do
      </p>
      <ol>
        {steps.map((step, index) => (
          <li key={index} className="border-b border-line-2 last:border-b-0">
            <button
              type="button"
              className={`flex w-full items-start gap-3 rounded-control py-2 text-left hover:bg-band ${index === state.index ? 'font-bold' : ''}`}
              onClick={() => dispatch({ kind: 'go', index })}
            >
              <span className="w-6 flex-none text-right font-mono text-[13px] text-soft">{index + 1}</span>
              <span className="min-w-0 flex-1 text-[13px]">
                {printStep(fillStep({ ...step, expect: undefined }, source))}
                {byOf.has(index) && <span className="block font-normal text-soft">by {byOf.get(index)}</span>}
              </span>
              <span className="pt-1">
                <BatonMark status={getWord(state, index).outcome ?? 'waiting'} />
              </span>
            </button>
          </li>
        ))}
      </ol>
      <button type="button" className="button mt-3 w-full" onClick={() => dispatch({ kind: 'show', screen: 'finish' })}>
        Finish …
      </button>
      <div className="mt-2">
        <GiveRest {...props} />
      </div>
    </div>
  );
}
