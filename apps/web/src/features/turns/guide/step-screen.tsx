import { isTrouble } from '@kindred-baton/core/outcomes';
import type { StepOutcome } from '@kindred-baton/core/outcomes';
import { checkValue } from '@kindred-baton/core/values/check-value';
import { toNameKey } from '@kindred-baton/core/values/field';
import { fillTemplate, findTemplateNames } from '@kindred-baton/core/values/template';
import { printStep } from '@kindred-baton/core/tests/print-step';
import { fillStep } from '@kindred-baton/core/defects/describe-steps';
import { useEffect, useState } from 'react';
import { BatonChip } from '../../../ui/baton-chip.tsx';
import { isTyping } from '../../../ui/is-typing.ts';
import { looksAtAnswer } from '@kindred-baton/core/tests/find-way-in';
import type { AskedAnswer } from './ask-door.tsx';
import { AskDoor, FoundInAnswer } from './ask-door.tsx';
import { EvidenceArea } from '../pictures/evidence-area.tsx';
import type { ScreenProps } from './guide-attempt.tsx';
import { getWord } from './guide-state.ts';
import { useGuideWindow } from './guide-window.tsx';
import { KeepField } from './keep-field.tsx';
import { OutcomeButtons } from './outcome-buttons.tsx';
import { Expected, StepSentence } from './step-sentence.tsx';

const OUTCOME_KEYS: Readonly<Record<string, StepOutcome>> = { '1': 'passed', '2': 'failed', '3': 'blocked', '4': 'skipped' };

interface StepScreenProps extends ScreenProps {
  readonly isSmall?: boolean;
  /** What came from the door that was asked last; it outlives the step that asked. */
  readonly asked?: { readonly answer: AskedAnswer | null; readonly onAnswer: (answer: AskedAnswer) => void };
}

/** One step: what to do, the value to take along, what should be seen, what is kept, and how it went. */
export function StepScreen({ guide, attempt, recorder, source, asked, isSmall = false }: StepScreenProps) {
  const { state, dispatch, steps } = recorder;
  const { index } = state;
  const step = steps[index];
  const word = getWord(state, index);
  const [problem, setProblem] = useState<string | null>(null);
  const field = recorder.findKeepField(index);
  const refusal = problem ?? recorder.refusals[index] ?? null;
  const say = (outcome: StepOutcome) => {
    const check = outcome === 'passed' && field ? checkValue(field, word.kept) : { ok: true as const, value: word.kept };
    if (!check.ok) return setProblem(check.message);
    setProblem(null);
    recorder.say(index, { ...word, outcome, kept: check.value });
  };
  const clear = () => recorder.say(index, { ...word, outcome: null });
  const go = (to: number) => dispatch({ kind: 'go', index: Math.min(steps.length - 1, Math.max(0, to)) });
  useGuideKeys((key) => {
    const outcome = OUTCOME_KEYS[key];
    if (outcome) say(outcome);
    else if (key === 'ArrowLeft') go(index - 1);
    else if (key === 'ArrowRight') go(index + 1);
    else if (key === 'a') dispatch({ kind: 'show', screen: 'all' });
  });
  if (!step) return null;
  const isTold = isTrouble(word.outcome);
  if (isSmall) {
    return (
      <div className="flex items-center gap-3 px-4 py-2">
        <p className="min-w-0 flex-1 truncate font-semibold">{printStep(fillStep({ ...step, expect: undefined }, source))}</p>
        <button type="button" className="button button-small" onClick={() => say('passed')}>
          It worked
        </button>
      </div>
    );
  }
  return (
    <>
      <div className="flex-1 px-4 pt-3">
        <StepSentence
          step={step}
          handed={new Set(guide.turn.arrivals.flatMap((arrival) => (arrival.from ? [toNameKey(arrival.name)] : [])))}
        />
        <PersonaStart steps={steps} index={index} guide={guide} />
        {asked && <StepAnswer {...asked} {...{ steps, index }} attemptId={attempt.id} />}
        {step.value !== undefined && <StepValue template={step.value} guide={guide} source={source} />}
        {step.expect !== undefined && (
          <div className="mt-4 border-l-[3px] border-line pl-3">
            <p className="text-[13px] text-soft">You should see</p>
            <p className="text-[15px]">
              <Expected template={step.expect} source={source} />
            </p>
          </div>
        )}
        {field && (
          <KeepField
            field={field}
            value={word.kept}
            problem={refusal}
            onChange={(kept) => recorder.type(index, { kept })}
            onEnter={() => say('passed')}
          />
        )}
        {!field && refusal !== null && (
          <p role="alert" className="mt-3 font-semibold text-failed">
            {refusal}
          </p>
        )}
        <EvidenceArea
          recorder={recorder}
          index={index}
          isNeeded={isTold}
          isPictureAsked={isPictureAsked(guide.rules, word.outcome)}
          evidence={attempt.evidence.filter((file) => file.stepIndex === index)}
        />
        <Next recorder={recorder} />
      </div>
      <OutcomeButtons word={word} onSay={say} onClear={clear} recorder={recorder} />
    </>
  );
}

interface StepAnswerProps extends NonNullable<StepScreenProps['asked']> {
  readonly steps: ScreenProps['recorder']['steps'];
  readonly index: number;
  readonly attemptId: string;
}

/** At a step that asks a door its answer, at those that look at it what they find. */
function StepAnswer({ steps, index, attemptId, answer, onAnswer }: StepAnswerProps) {
  if (steps[index]?.do === 'ask')
    return <AskDoor attemptId={attemptId} index={index} answer={answer?.at === index ? answer : null} onAnswer={onAnswer} />;
  return answer !== null && looksAtAnswer(steps, index) ? <FoundInAnswer answer={answer} index={index} /> : null;
}

/** Whether the cycle's rules ask for a picture at a step that went so. */
function isPictureAsked({ evidence, failure }: ScreenProps['guide']['rules'], outcome: StepOutcome | null): boolean {
  const hasFailed = outcome === 'failed';
  return evidence === 'each step' ? outcome !== 'skipped' : hasFailed && (evidence === 'failed steps' || failure.includes('picture'));
}

/** The value to take along, to be copied, and from whom it is. */
function StepValue({ template, guide, source }: Pick<ScreenProps, 'guide' | 'source'> & { readonly template: string }) {
  const value = fillTemplate(template, source);
  const names = findTemplateNames(template).map(toNameKey);
  const arrival = guide.turn.arrivals.find((candidate) => names.includes(toNameKey(candidate.name)));
  return (
    <p className="mt-3 flex flex-wrap items-center gap-3">
      <BatonChip value={value} canCopy size="large" />
      {arrival?.from && (
        <span className="text-[13px] text-soft">
          from {arrival.from.person ?? arrival.from.title}, leg {arrival.from.leg}
        </span>
      )}
    </p>
  );
}

/** Where another persona takes over: how that one starts the application. */
function PersonaStart({
  steps,
  index,
  guide,
}: Pick<ScreenProps, 'guide'> & { readonly steps: ScreenProps['recorder']['steps']; readonly index: number }) {
  const usual = guide.version?.rows[0]?.as;
  const as = steps[index]?.as ?? usual;
  const before = index === 0 ? undefined : (steps[index - 1]?.as ?? usual);
  const start = as === undefined || as === before ? undefined : guide.starts.find(({ persona }) => toNameKey(persona) === toNameKey(as));
  if (!start) return null;
  return (
    <p className="mt-2 rounded-control bg-band px-3 py-2 text-[13px]">
      <b>{start.persona}</b> {start.how}
    </p>
  );
}

function Next({ recorder }: { readonly recorder: ScreenProps['recorder'] }) {
  const next = recorder.steps[recorder.state.index + 1];
  return (
    <p className="my-3 truncate text-[13px] text-soft">
      {next ? (
        <>
          Next: {next.do === 'hand' ? 'by hand' : next.do} <b className="text-ink">{next.target}</b>
        </>
      ) : (
        'This is the last step.'
      )}
    </p>
  );
}

function useGuideKeys(act: (key: string) => void): void {
  const view = useGuideWindow();
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (isTyping(event.target) || event.ctrlKey || event.metaKey || event.altKey) return;
      if ((event.target as HTMLElement | null)?.closest?.('[role=tree], [role=dialog], [role=listbox], [role=menu]')) return;
      act(event.key.length === 1 ? event.key.toLowerCase() : event.key);
    };
    view?.addEventListener('keydown', onKey);
    return () => view?.removeEventListener('keydown', onKey);
  });
}
