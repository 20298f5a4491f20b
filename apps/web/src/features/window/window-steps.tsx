import type { AttemptView, GuideView } from '@kindred-baton/contracts/turns/turn';
import { fillStep } from '@kindred-baton/core/defects/describe-steps';
import { isTrouble } from '@kindred-baton/core/outcomes';
import { printStep } from '@kindred-baton/core/tests/print-step';
import { useEffect, useRef } from 'react';
import { BatonMark } from '../../ui/baton-mark.tsx';
import { useProgramme } from '../frame/programme-context.tsx';
import { createAttemptSource } from '../turns/guide/attempt-source.ts';
import { describeHands } from '../turns/guide/describe-hands.ts';

interface WindowStepsProps {
  readonly guide: GuideView;
  readonly attempt: AttemptView;
  /** The step that is looked at; null: the first without a word. */
  readonly at: number | null;
  /** Chooses a step; none: it follows what is done. */
  readonly onChoose?: (index: number) => void;
}

/** The steps of an attempt: the one that is looked at in full, with what it should show and what it shows. */
export function WindowSteps({ guide, attempt, at, onChoose }: WindowStepsProps) {
  const { base, timeZone } = useProgramme();
  const steps = attempt.isOfVersion ? (guide.version?.steps ?? []) : [];
  const kept = Object.entries(attempt.kept).map(([name, value]) => ({ name, value }));
  const source = createAttemptSource({ guide, attempt, kept, timeZone });
  const resultOf = new Map(attempt.results.map((result) => [result.stepIndex, result]));
  const open = steps.findIndex((_, index) => (resultOf.get(index)?.outcome ?? null) === null);
  const current = at ?? (open < 0 ? steps.length - 1 : open);
  const hands = describeHands(attempt);
  const list = useRef<HTMLOListElement>(null);
  useEffect(() => {
    const own = list.current?.children[current];
    if (list.current && own instanceof HTMLElement) list.current.scrollTop = own.offsetTop - list.current.offsetTop - 60;
  }, [current]);
  const isLive = attempt.finishedAt === null;
  const who = attempt.runner ?? attempt.person;
  return (
    <section className="card flex flex-col self-start overflow-hidden rounded-leg!" aria-label="Steps">
      <header className="bg-deep px-4 py-2.5 text-on-deep">
        <p className="text-[13px] opacity-85">
          Step {current + 1} of {steps.length}
        </p>
        <h2 className="text-[15px]">{isLive ? (attempt.isLeased ? `${who} does it` : `Waits for a runner of ${attempt.person}`) : who}</h2>
      </header>
      {steps.length === 0 && (
        <p className="px-4 py-3 text-soft">It was done by other steps than the turn has by now; they are in its report.</p>
      )}
      <ol ref={list} className="max-h-[60vh] overflow-y-auto px-2 py-2">
        {steps.map((step, index) => {
          const result = resultOf.get(index);
          const status = result?.outcome ?? (index === current && attempt.isLeased ? 'under way' : 'waiting');
          const isCurrent = index === current;
          const words = (
            <>
              <span className="w-5 flex-none text-right font-mono text-[13px] text-soft">{index + 1}</span>
              <span className={`min-w-0 flex-1 break-words ${isCurrent ? 'text-[15px] font-bold' : 'text-[13px]'}`}>
                {printStep(fillStep({ ...step, expect: undefined }, source))}
              </span>
              <span className="pt-1">
                <BatonMark status={status} />
              </span>
            </>
          );
          return (
            <li
              key={index}
              className={`rounded-control ${isCurrent ? 'border-2 border-baton bg-sheet' : ''}`}
              aria-current={isCurrent ? 'step' : undefined}
            >
              {onChoose ? (
                <button
                  type="button"
                  className="flex w-full items-start gap-2 rounded-control px-2 py-1.5 text-left hover:bg-band"
                  onClick={() => onChoose(index)}
                >
                  {words}
                </button>
              ) : (
                <span className="flex items-start gap-2 px-2 py-1.5">{words}</span>
              )}
              {isCurrent && <Seen step={fillStep(step, source)} result={result} />}
            </li>
          );
        })}
      </ol>
      <footer className="border-t border-line-2 px-4 py-2.5 text-[13px]">
        {hands !== '' && <p className="mb-1 text-soft">{hands}</p>}
        <a className="button w-full justify-center" href={`${base}/turns/${guide.turn.id}`}>
          {isLive ? 'To the turn: stop it, go on by hand' : 'To the turn'}
        </a>
      </footer>
    </section>
  );
}

/** What it should show and, once it is known, what it shows. */
function Seen({
  step,
  result,
}: {
  readonly step: { readonly expect?: string | undefined };
  readonly result: AttemptView['results'][number] | undefined;
}) {
  const should = step.expect ?? result?.expected ?? '';
  const shows = result?.actual || result?.note || '';
  return (
    <div className="grid gap-1.5 px-3 pb-2 text-[13px]">
      {should !== '' && (
        <p className="border-l-[3px] border-line pl-2 break-words">
          <span className="block text-soft">It should show</span>
          {should}
        </p>
      )}
      {shows !== '' && (
        <p className={`border-l-[3px] pl-2 break-words ${isTrouble(result?.outcome) ? 'border-failed' : 'border-ink'}`}>
          <span className="block text-soft">{isTrouble(result?.outcome) ? 'It shows' : 'It showed'}</span>
          {shows}
        </p>
      )}
    </div>
  );
}
