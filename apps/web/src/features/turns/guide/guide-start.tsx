import { letsOn } from '@kindred-baton/core/outcomes';
import { useChanges } from '../../../client/use-changes.ts';
import type { GuideView } from '@kindred-baton/contracts/turns/turn';
import Play from 'lucide-react/icons/play';
import { useState } from 'react';
import { BatonChip } from '../../../ui/baton-chip.tsx';
import { StatusLabel } from '../../../ui/baton-mark.tsx';
import { countOf } from '../../../ui/format.ts';
import { useProgramme } from '../../frame/programme-context.tsx';
import { AttemptsSoFar } from './attempts/attempts-so-far.tsx';
import { describeBrowser } from './describe-browser.ts';
import { NudgeButton } from '../nudge-button.tsx';
import { OnPaper } from './on-paper.tsx';
import { DefectLinks } from '../../defects/defect-links.tsx';
import { LiftBlock } from '../lift-block.tsx';
import { WithRunners } from './with-runners.tsx';
import { PassTurn } from '../pass-turn.tsx';

/** Before an attempt: what is in hand, where to start, what was tried, and the button to begin. */
export function GuideStart({ guide }: { readonly guide: GuideView }) {
  const { base } = useProgramme();
  const { turn, version } = guide;
  const atWork = guide.attempts.find((attempt) => attempt.isWithRunners && attempt.finishedAt === null);
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
        {atWork ? <WithRunners guide={guide} attempt={atWork} /> : <Begin guide={guide} />}
        <p className="mt-2 flex flex-wrap items-center gap-2">
          <PassTurn guide={guide} />
          <LiftBlock turn={turn} />
          {turn.holder && turn.holder.person !== null && (
            <NudgeButton turn={turn.holder.id} title={turn.holder.title} nudges={turn.holder.nudges} />
          )}
        </p>
      </div>
      <AttemptsSoFar guide={guide} />
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
  const [newest] = guide.attempts;
  const from = newest?.canContinue ? newest : undefined;
  const takeOver = useTakeOver(guide);
  if (guide.refusal !== null && !(from && takeOver))
    return (
      <p className="mt-4 rounded-control bg-band px-3 py-2">
        <DefectLinks text={guide.turn.heldBy === null ? guide.refusal : `Held: ${guide.turn.heldBy}.`} />
      </p>
    );
  const begin = async (continues: string | null) => {
    setIsBusy(true);
    if (guide.refusal === null || (await takeOver?.())) {
      const input = { id: crypto.randomUUID(), browser: describeBrowser(navigator.userAgent), continues: continues as never };
      await act('startAttempt', { params: { turn: guide.turn.id }, input });
    }
    setIsBusy(false);
  };
  return (
    <div className="mt-4 grid gap-2">
      {from && (
        <button type="button" className="button button-primary min-h-[42px] w-full" onClick={() => void begin(from.id)} disabled={isBusy}>
          <Play size={17} aria-hidden /> {from.isWithRunners ? 'Finish it by hand' : 'Go on'} from step {countDone(from) + 1}
        </button>
      )}
      <button
        type="button"
        className={`button min-h-[42px] w-full ${from ? '' : 'button-primary'}`}
        onClick={() => void begin(null)}
        disabled={isBusy}
      >
        {!from && <Play size={17} aria-hidden />} {from ? 'From the first step' : guide.attempts.length > 0 ? 'Try again' : 'Begin'}
      </button>
    </div>
  );
}

/** Steps at the beginning that are done, or left out. */
function countDone({ results }: GuideView['attempts'][number]): number {
  const stop = results.find(({ outcome }) => !letsOn(outcome));
  return stop ? stop.stepIndex : results.length;
}

/** For somebody of the lane to whom a turn of runners is not given yet: takes it, and answers whether that was done. */
function useTakeOver(guide: GuideView): (() => Promise<boolean>) | null {
  const { can, viewer } = useProgramme();
  const { act } = useChanges();
  const isInLane = guide.mates.some(({ id }) => id === viewer.person.id);
  const isRunners = guide.attempts[0]?.isWithRunners === true;
  if (!can('make attempts') || !isInLane || !isRunners || guide.turn.state === 'waiting') return null;
  return async () => {
    const input = { personId: viewer.person.id, word: '' };
    return (await act('passTurn', { params: { turn: guide.turn.id }, input })) !== undefined;
  };
}
