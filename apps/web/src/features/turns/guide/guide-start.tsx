import { isTrouble } from '@kindred-baton/core/outcomes';
import { useChanges } from '../../../client/use-changes.ts';
import type { GuideView } from '@kindred-baton/contracts/turns/turn';
import Play from 'lucide-react/icons/play';
import { lazy, Suspense, useState } from 'react';
import { BatonChip } from '../../../ui/baton-chip.tsx';
import { StatusLabel } from '../../../ui/baton-mark.tsx';
import { countOf } from '../../../ui/format.ts';
import { Moment } from '../../../ui/moment.tsx';
import { useProgramme } from '../../frame/programme-context.tsx';
import { describeBrowser } from './describe-browser.ts';
import { NudgeButton } from '../nudge-button.tsx';
import { OnPaper } from './on-paper.tsx';
import { DefectLinks } from '../../defects/defect-links.tsx';
import { LiftBlock } from '../lift-block.tsx';
import { PassTurn } from '../pass-turn.tsx';

const AttemptsBeside = lazy(() => import('./attempts-beside.tsx').then((module) => ({ default: module.AttemptsBeside })));

/** Before an attempt: what is in hand, where to start, what was tried, and the button to begin. */
export function GuideStart({ guide }: { readonly guide: GuideView }) {
  const { base } = useProgramme();
  const { turn, version } = guide;
  return (
    <div className="max-h-[calc(100vh-150px)] overflow-y-auto">
      <div className="px-4 py-3">
        <div className="mb-3 flex items-center justify-between gap-3">
          <StatusLabel status={turn.status} word={turn.isRetest && turn.state === 'ready' ? 'Ready to try again' : undefined} />
          <span className="text-[13px] text-soft">
            {guide.isBare
              ? 'no written test: do it, say how it went'
              : version
                ? `${countOf(version.steps.length, 'step')}, ${turn.test} version ${version.number}`
                : 'no test yet'}
          </span>
        </div>
        {guide.newerVersion !== null && (
          <p className="hint mb-2">
            Version {guide.newerVersion} is newer; this cycle keeps version {version?.number}.
          </p>
        )}
        {guide.note !== '' && <p className="mb-3 rounded-control bg-band px-3 py-2 whitespace-pre-line">{guide.note}</p>}
        {guide.persona !== null && <AsPersona guide={guide} persona={guide.persona} />}
        <Arrived guide={guide} />
        <p className="mt-3 text-[13px]">
          <span className="text-soft">Where: </span>
          {guide.address === null ? (
            guide.environment
          ) : (
            <a className="block truncate underline" href={guide.address} target="_blank" rel="noreferrer">
              {guide.environment}, {guide.address.replace(/^https?:\/\//, '')}
            </a>
          )}
        </p>
        {guide.defects.map((defect) => (
          <p key={defect.code} className="mt-2 text-[13px]">
            <a className="underline" href={`${base}/defects/${defect.code}`}>
              {defect.code}
            </a>{' '}
            {defect.title} · {defect.status}
          </p>
        ))}
        <Begin guide={guide} />
        <p className="mt-2 flex flex-wrap items-center gap-2">
          <PassTurn guide={guide} />
          <LiftBlock turn={turn} />
          {turn.holder && turn.holder.person !== null && (
            <NudgeButton turn={turn.holder.id} title={turn.holder.title} nudges={turn.holder.nudges} />
          )}
        </p>
      </div>
      <Attempts guide={guide} steps={version?.steps.length ?? 0} />
      <OnPaper guide={guide} />
    </div>
  );
}

/** As whom the whole turn is done, and how to start the application so. */
function AsPersona({ guide, persona }: { readonly guide: GuideView; readonly persona: string }) {
  const start = guide.starts.find((each) => each.persona === persona);
  return (
    <p className="mb-3 text-[13px]">
      <span className="text-soft">As </span>
      <b>{persona}</b>
      {start && `: ${start.how}`}
    </p>
  );
}

function Arrived({ guide }: { readonly guide: GuideView }) {
  const { arrivals } = guide.turn;
  if (arrivals.length === 0) return <p className="text-[13px] text-soft">It needs nothing from anybody.</p>;
  return (
    <dl className="grid gap-1.5">
      {arrivals.map((arrival) => (
        <div key={arrival.name} className="flex flex-wrap items-center justify-between gap-2">
          <dt className="text-[13px] text-soft">
            {arrival.name}
            {arrival.from && ` from ${arrival.from.person ?? arrival.from.title}, leg ${arrival.from.leg}`}
          </dt>
          <dd className="min-w-0">
            {arrival.from ? (
              <BatonChip value={arrival.value ?? 'not yet'} canCopy={arrival.value !== null} />
            ) : (
              <span className="font-mono text-[13px]">{arrival.value ?? 'none'}</span>
            )}
          </dd>
        </div>
      ))}
    </dl>
  );
}

function Begin({ guide }: { readonly guide: GuideView }) {
  const { act } = useChanges();
  const [isBusy, setIsBusy] = useState(false);
  if (guide.refusal !== null)
    return (
      <p className="mt-4 rounded-control bg-band px-3 py-2">
        <DefectLinks text={guide.turn.heldBy === null ? guide.refusal : `Held: ${guide.turn.heldBy}.`} />
      </p>
    );
  const begin = async () => {
    setIsBusy(true);
    const input = { id: crypto.randomUUID(), browser: describeBrowser(navigator.userAgent) };
    await act('startAttempt', { params: { turn: guide.turn.id }, input });
    setIsBusy(false);
  };
  return (
    <button type="button" className="button button-primary mt-4 min-h-[42px] w-full" onClick={() => void begin()} disabled={isBusy}>
      <Play size={17} aria-hidden /> {guide.attempts.length > 0 ? 'Try again' : 'Begin'}
    </button>
  );
}

/** Attempts are kept; the newest finished one counts. */
function Attempts({ guide, steps }: { readonly guide: GuideView; readonly steps: number }) {
  const { api } = useProgramme();
  const [isBeside, setIsBeside] = useState(false);
  const { attempts } = guide;
  if (attempts.length === 0) return null;
  return (
    <section className="border-t border-line-2 px-4 py-3" aria-label="Attempts so far">
      <div className="mb-2 flex items-center justify-between gap-2">
        <h3 className="font-bold">Attempts so far</h3>
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
        {attempts.map((attempt) => {
          const told = attempt.results.filter((result) => result.note !== '' || isTrouble(result.outcome));
          return (
            <li key={attempt.id}>
              <p className="flex flex-wrap items-center gap-x-3">
                <StatusLabel status={attempt.outcome ?? 'under way'} />
                <span className="text-[13px] text-soft">
                  attempt {attempt.number}, {attempt.person}, <Moment at={attempt.finishedAt ?? attempt.startedAt} />
                  {attempt.isFromSheet && ', on paper'} ·{' '}
                  <a className="underline" href={`${api}/turns/${guide.turn.id}/sheet?format=report&attempt=${attempt.id}`} download>
                    Report
                  </a>
                </span>
              </p>
              {told.map((result) => (
                <p key={result.stepIndex} className="mt-1 text-[13px]">
                  Step {result.stepIndex + 1} of {steps}: {result.note === '' ? result.outcome : result.note}
                </p>
              ))}
              {Object.entries(attempt.kept).map(([name, value]) => (
                <span key={name} className="mt-1 mr-2 inline-block">
                  <BatonChip name={name} value={value} canCopy />
                </span>
              ))}
              <div className="mt-1 flex flex-wrap gap-2">
                {attempt.evidence.map((file) => (
                  <a key={file.id} href={`${api}/evidence/${file.id}`} target="_blank" rel="noreferrer" className="text-[13px] underline">
                    {file.name}, step {file.stepIndex + 1}
                  </a>
                ))}
              </div>
            </li>
          );
        })}
      </ol>
    </section>
  );
}
