import type { AttemptView, GuideView } from '@kindred-baton/contracts/turns/turn';
import { isTrouble } from '@kindred-baton/core/outcomes';
import { lazy, Suspense, useState } from 'react';
import { toAddress } from '../../../../client/call.ts';
import { BatonChip } from '../../../../ui/baton-chip.tsx';
import { StatusLabel } from '../../../../ui/baton-mark.tsx';
import { DialogBox } from '../../../../ui/dialog.tsx';
import { Moment } from '../../../../ui/moment.tsx';
import { useProgramme } from '../../../frame/programme-context.tsx';
import { createAttemptSource } from '../attempt-source.ts';
import { describeHands } from '../describe-hands.ts';
import { Evidence, ToldStep } from './told-step.tsx';
import { TookMinutes } from './took-minutes.tsx';

const AttemptsBeside = lazy(() => import('./attempts-beside.tsx').then((module) => ({ default: module.AttemptsBeside })));
const LogDefectForm = lazy(() => import('../log-defect-form.tsx').then((module) => ({ default: module.LogDefectForm })));

/** Attempts are kept; the newest finished one counts. */
export function AttemptsSoFar({ guide }: { readonly guide: GuideView }) {
  const { api } = useProgramme();
  const [isBeside, setIsBeside] = useState(false);
  const { attempts } = guide;
  if (attempts.length === 0) return null;
  return (
    <section className="border-t border-line-2 px-4 py-3" aria-label="Attempts so far">
      <div className="mb-2 flex items-center gap-2">
        <h3 className="mr-auto font-bold">Attempts so far</h3>
        <a className="button button-quiet button-small" href={`${toAddress(api, 'exportRun', { params: { run: guide.run } })}?format=html`}>
          Whole run
        </a>
        {attempts.length > 1 && (
          <button type="button" className="button button-quiet button-small" onClick={() => setIsBeside(true)}>
            Side by side
          </button>
        )}
      </div>
      {isBeside && (
        <Suspense fallback={null}>
          <AttemptsBeside guide={guide} onClose={() => setIsBeside(false)} />
        </Suspense>
      )}
      <ol className="grid gap-3">
        {attempts.map((attempt, index) => (
          <li key={attempt.id}>
            <OneAttempt guide={guide} attempt={attempt} />
            {index === 0 && <LogFromRunner guide={guide} attempt={attempt} />}
          </li>
        ))}
      </ol>
    </section>
  );
}

function OneAttempt({ guide, attempt }: { readonly guide: GuideView; readonly attempt: AttemptView }) {
  const { api, base, timeZone } = useProgramme();
  const told = attempt.results.filter((result) => result.note !== '' || isTrouble(result.outcome));
  const hands = describeHands(attempt);
  const kept = Object.entries(attempt.kept).map(([name, value]) => ({ name, value }));
  const source = createAttemptSource({ guide, attempt, kept, timeZone });
  const filesOf = (index: number) => attempt.evidence.filter(({ stepIndex }) => stepIndex === index);
  const isTold = ({ stepIndex }: { readonly stepIndex: number }) => told.some((result) => result.stepIndex === stepIndex);
  return (
    <>
      <p className="flex flex-wrap items-center gap-x-3">
        <StatusLabel status={attempt.outcome ?? 'under way'} />
        <span className="text-[13px] text-soft">
          attempt {attempt.number}, {attempt.person}, <Moment at={attempt.finishedAt ?? attempt.startedAt} />
          {attempt.isFromSheet && ', on paper'} ·{' '}
          <a className="underline" href={`${api}/turns/${guide.turn.id}/sheet?format=report&attempt=${attempt.id}`} download>
            Report
          </a>
          {attempt.evidence.some(({ mediaType }) => mediaType.startsWith('image/')) && (
            <>
              {' · '}
              <a className="underline" href={`${base}/turns/${guide.turn.id}/window?attempt=${attempt.id}`}>
                Step by step
              </a>
            </>
          )}
        </span>
      </p>
      <TookMinutes attempt={attempt} planned={guide.turn.minutes} />
      {hands !== '' && <p className="text-[13px] text-soft">{hands}</p>}
      {told.map((result) => (
        <ToldStep
          key={result.stepIndex}
          {...{ result, source, files: filesOf(result.stepIndex) }}
          steps={attempt.isOfVersion ? (guide.version?.steps ?? []) : []}
        />
      ))}
      <Unlooked attempt={attempt} />
      {kept.map(({ name, value }) => (
        <span key={name} className="mt-1 mr-2 inline-block">
          <BatonChip name={name} value={value} canCopy />
        </span>
      ))}
      <Evidence files={attempt.evidence.filter((file) => !isTold(file))} isNamingStep />
    </>
  );
}

/** What a runner passed over, since only a person can judge it: passed says nothing of it. */
function Unlooked({ attempt }: { readonly attempt: AttemptView }) {
  const left = attempt.results.filter(({ unlooked }) => unlooked !== '');
  if (left.length === 0) return null;
  return (
    <details className="mt-1 text-[13px]">
      <summary>
        Not looked at by the runner: {left.length} {left.length === 1 ? 'expectation' : 'expectations'}
      </summary>
      <ul className="mt-1 grid gap-1 text-soft">
        {left.map(({ stepIndex, unlooked }) => (
          <li key={stepIndex}>
            Step {stepIndex + 1}: {unlooked}
          </li>
        ))}
      </ul>
    </details>
  );
}

/** A runner logs no defect: a person looks at what it saw, and does. */
function LogFromRunner({ guide, attempt }: { readonly guide: GuideView; readonly attempt: AttemptView }) {
  const { can, timeZone } = useProgramme();
  const [isAsked, setIsAsked] = useState(false);
  const failed = attempt.results.find(({ outcome }) => outcome === 'failed');
  if (!attempt.isWithRunners || attempt.finishedAt === null || !failed || !guide.version || !can('log defects')) return null;
  const kept = Object.entries(attempt.kept).map(([name, value]) => ({ name, value }));
  const close = () => setIsAsked(false);
  return (
    <>
      <button type="button" className="button button-small mt-2" onClick={() => setIsAsked(true)}>
        Log a defect
      </button>
      <DialogBox title={guide.turn.title} isOpen={isAsked} onClose={close} width={640}>
        <Suspense fallback={<p className="text-soft">One moment …</p>}>
          <LogDefectForm
            {...{ attempt, stepIndex: failed.stepIndex, steps: guide.version.steps, onDone: close, onCancel: close }}
            source={createAttemptSource({ guide, attempt, kept, timeZone })}
            outcomeAt={(index) => attempt.results.find(({ stepIndex }) => stepIndex === index)?.outcome ?? null}
            seen={failed.actual === '' ? failed.note : failed.actual}
            {...(failed.expected === '' ? {} : { expected: failed.expected })}
          />
        </Suspense>
      </DialogBox>
    </>
  );
}
