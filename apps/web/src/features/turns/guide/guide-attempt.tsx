import type { AttemptView, GuideView } from '@kindred-baton/contracts/turns/turn';
import { isTrouble } from '@kindred-baton/core/outcomes';
import type { TemplateSource } from '@kindred-baton/core/values/template';
import type { ReactNode } from 'react';
import { useState } from 'react';
import { useMemo } from 'react';
import { useProgramme } from '../../frame/programme-context.tsx';
import { AllSteps } from './all-steps.tsx';
import { createAttemptSource } from './attempt-source.ts';
import { FinishScreen } from './finish-screen.tsx';
import type { GuideState } from './guide-state.ts';
import { getWord } from './guide-state.ts';
import type { AskedAnswer } from './ask-door.tsx';
import { LogDefectForm } from './log-defect-form.tsx';
import { ProgressDots } from './progress-dots.tsx';
import { StepScreen } from './step-screen.tsx';
import type { AttemptRecorder } from './use-attempt.ts';
import { useAttempt } from './use-attempt.ts';

interface GuideAttemptProps {
  readonly guide: GuideView;
  readonly attempt: AttemptView;
  readonly isSmall: boolean;
  readonly frame: (head: ReactNode, body: ReactNode) => ReactNode;
}

export interface ScreenProps {
  readonly guide: GuideView;
  readonly attempt: AttemptView;
  readonly recorder: AttemptRecorder;
  readonly source: TemplateSource;
}

/** An attempt under way. */
export function GuideAttempt({ guide, attempt, isSmall, frame }: GuideAttemptProps) {
  const recorder = useAttempt(guide, attempt);
  const { state, steps } = recorder;
  const source = useStepSource(guide, attempt, state);
  const props = { guide, attempt, recorder, source };
  const head = (
    <>
      <p className="text-[13px] opacity-85">
        {state.screen === 'step' ? `Step ${state.index + 1} of ${steps.length}` : `${steps.length} steps`}
        {recorder.waiting > 0 && <span> · {recorder.waiting} still to be sent</span>}
      </p>
      <b className="text-[15px]">{guide.turn.title}</b>
    </>
  );
  const [answer, setAnswer] = useState<AskedAnswer | null>(null);
  if (isSmall) return frame(head, <StepScreen {...props} isSmall />);
  return frame(
    head,
    <div className="flex max-h-[calc(100vh-140px)] min-h-[min(560px,calc(100vh-140px))] flex-col overflow-y-auto">
      <ProgressDots recorder={recorder} />
      {state.screen === 'step' && <StepScreen key={state.index} {...props} asked={{ answer, onAnswer: setAnswer }} />}
      {state.screen === 'all' && <AllSteps {...props} />}
      {state.screen === 'finish' && <FinishScreen {...props} />}
      {state.screen === 'defect' && <DefectScreen {...props} />}
    </div>,
  );
}

/** A defect at the step that is told of; where the step itself went well, the test goes on. */
function DefectScreen({ attempt, recorder, source }: ScreenProps) {
  const { state, dispatch, steps, flush } = recorder;
  const { outcome, note } = getWord(state, state.index);
  const back = () => dispatch({ kind: 'go', index: state.index });
  return (
    <LogDefectForm
      {...{ attempt, steps, source, flush, stepIndex: state.index, seen: note, onCancel: back }}
      outcomeAt={(index) => getWord(state, index).outcome}
      onDone={() => (isTrouble(outcome) ? dispatch({ kind: 'show', screen: 'finish' }) : back())}
    />
  );
}

/** What came in, then what was kept so far. */
function useStepSource(guide: GuideView, attempt: AttemptView, state: GuideState): TemplateSource {
  const { timeZone } = useProgramme();
  return useMemo(() => {
    const kept = (guide.version?.steps ?? []).flatMap((step, index) =>
      step.keepAs === undefined ? [] : [{ name: step.keepAs, value: getWord(state, index).kept }],
    );
    return createAttemptSource({ guide, attempt, kept, timeZone });
  }, [guide, attempt, state, timeZone]);
}
