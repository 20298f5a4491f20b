import type { AttemptView, GuideView } from '@kindred-baton/contracts/turns/turn';
import { toDay } from '@kindred-baton/core/time/calendar';
import { createStepSource } from '@kindred-baton/core/turns/step-source';
import type { TemplateSource } from '@kindred-baton/core/values/template';
import type { ReactNode } from 'react';
import { useMemo } from 'react';
import { useProgramme } from '../../frame/programme-context.tsx';
import { AllSteps } from './all-steps.tsx';
import { FinishScreen } from './finish-screen.tsx';
import type { GuideState } from './guide-state.ts';
import { getWord } from './guide-state.ts';
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
  if (isSmall) return frame(head, <StepScreen {...props} isSmall />);
  return frame(
    head,
    <div className="flex max-h-[calc(100vh-140px)] min-h-[min(560px,calc(100vh-140px))] flex-col overflow-y-auto">
      <ProgressDots recorder={recorder} />
      {state.screen === 'step' && <StepScreen key={state.index} {...props} />}
      {state.screen === 'all' && <AllSteps {...props} />}
      {state.screen === 'finish' && <FinishScreen {...props} />}
      {state.screen === 'defect' && <LogDefectForm {...props} />}
    </div>,
  );
}

/** What came in, then what was kept so far. */
function useStepSource(guide: GuideView, attempt: AttemptView, state: GuideState): TemplateSource {
  const { timeZone } = useProgramme();
  return useMemo(() => {
    const kept = (guide.version?.steps ?? []).flatMap((step, index) =>
      step.keepAs === undefined ? [] : [{ name: step.keepAs, value: getWord(state, index).kept }],
    );
    return createStepSource({
      attempt: attempt.seed,
      day: toDay(Date.parse(attempt.startedAt), timeZone),
      calendar: { workingDays: guide.workingDays, holidays: guide.holidays },
      values: [...guide.turn.arrivals, ...kept],
    });
  }, [guide, attempt, state, timeZone]);
}
