import { isOver } from '@kindred-baton/core/defects/defect';
import type { Finished } from '@kindred-baton/contracts/turns/turn';
import { findMissing } from '@kindred-baton/core/cycles/rules';
import { getAttemptOutcome } from '@kindred-baton/core/outcomes';
import { useState } from 'react';
import { BatonChip } from '../../../ui/baton-chip.tsx';
import { StatusLabel } from '../../../ui/baton-mark.tsx';
import { useNotice } from '../../../ui/notices.tsx';
import { toMessage } from '../../../client/request.ts';
import { GiveRest } from './give-rest.tsx';
import type { ScreenProps } from './guide-attempt.tsx';
import { countWords, getWord } from './guide-state.ts';

/** The end of an attempt: what worked, what it gives on and to whom, and the button that passes the baton. */
export function FinishScreen(props: ScreenProps) {
  const { guide, attempt, recorder } = props;
  const notify = useNotice();
  const { state, dispatch, steps } = recorder;
  const [isBusy, setIsBusy] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const counts = countWords(state, steps.length);
  const outcome = getAttemptOutcome(
    steps.map((step, index) => ({ optional: step.optional === true, outcome: getWord(state, index).outcome })),
  );
  const kept = steps.flatMap((step, index) =>
    step.keepAs === undefined || getWord(state, index).kept === '' ? [] : [{ name: step.keepAs, value: getWord(state, index).kept }],
  );
  const missing = findMissing(guide.rules, {
    steps: steps.map((_, index) => ({
      ...getWord(state, index),
      pictures: attempt.evidence.filter(({ stepIndex }) => stepIndex === index).length,
    })),
    defects: guide.defects.filter(({ status }) => !isOver(status)).length,
  });
  const finish = async () => {
    setIsBusy(true);
    setProblem(null);
    try {
      notify({ kind: 'done', text: describeFinish(await recorder.finish()) });
    } catch (error) {
      setProblem(toMessage(error));
      setIsBusy(false);
    }
  };
  return (
    <div className="flex flex-1 flex-col px-4 py-4">
      <h2 className="mb-3 text-[19px]">{outcome === 'unfinished' ? 'Not all steps are told yet' : 'That was the last step'}</h2>
      {outcome !== 'unfinished' && <StatusLabel status={outcome} />}
      <p className="mt-2 text-soft">
        {counts.worked} worked, {counts.didNot} did not, {counts.blocked} blocked, {counts.leftOut} left out
        {counts.open > 0 && `, ${counts.open} not told`}
      </p>
      {kept.length > 0 && outcome === 'passed' && (
        <div className="mt-4">
          <p className="mb-1.5 font-bold">You hand on</p>
          <div className="flex flex-wrap gap-2">
            {kept.map(({ name, value }) => (
              <BatonChip key={name} name={name} value={value} canCopy />
            ))}
          </div>
          <p className="mt-2 text-[13px] text-soft">{describeReceivers(guide.goesTo)}</p>
        </div>
      )}
      {missing.map((sentence) => (
        <p key={sentence} className="mt-3 border-l-[3px] border-l-failed pl-2.5">
          {sentence}
        </p>
      ))}
      {problem !== null && (
        <p role="alert" className="mt-4 font-semibold text-failed">
          {problem}
        </p>
      )}
      <div className="mt-auto grid gap-2 pt-6">
        <button
          type="button"
          className="button button-primary min-h-[42px]"
          disabled={isBusy || outcome === 'unfinished' || missing.length > 0}
          onClick={() => void finish()}
        >
          {outcome === 'passed' ? 'Finish and pass on' : 'Finish'}
        </button>
        <button type="button" className="button" onClick={() => dispatch({ kind: 'go', index: state.index })}>
          Back to the steps
        </button>
        <GiveRest {...props} />
      </div>
    </div>
  );
}

function describeReceivers(goesTo: ScreenProps['guide']['goesTo']): string {
  const receivers = [...new Set(goesTo.map(({ person, title }) => `${person ?? 'somebody'} for ${title}`))];
  return receivers.length > 0 ? `to ${receivers.join(', ')}` : 'It stays in the baton; no later leg needs it.';
}

function describeFinish({ outcome, next }: Finished): string {
  if (outcome !== 'passed') return `Recorded as ${outcome}.`;
  const [first] = next;
  return first ? `Passed on. ${first.person ?? 'The next one'} can begin ${first.title}.` : 'Passed on.';
}
