import type { AttemptView, GuideView } from '@kindred-baton/contracts/turns/turn';
import Maximize from 'lucide-react/icons/maximize';
import { useCallback, useRef } from 'react';
import { useRead } from '../../client/use-read.ts';
import { StatusLabel } from '../../ui/baton-mark.tsx';
import { AppFrame } from '../frame/app-frame.tsx';
import type { PageProps } from '../frame/app-frame.tsx';
import { useAddress } from '../frame/address-context.tsx';
import { useProgramme } from '../frame/programme-context.tsx';
import { LiveScreen } from './live-screen.tsx';
import { PastScreens } from './past-screens.tsx';
import { useWindow } from './use-window.ts';
import type { Frame } from './use-window.ts';
import { WindowSteps } from './window-steps.tsx';

/** A turn as it is done by a runner, live; what was done, from its pictures. */
export function WindowApp({ content, ...frame }: PageProps<GuideView>) {
  return (
    <AppFrame {...frame} area="turns">
      <WindowView initial={content} />
    </AppFrame>
  );
}

const isLive = (attempt: AttemptView): boolean => attempt.finishedAt === null && attempt.isWithRunners;

export function WindowView({ initial }: { readonly initial: GuideView }) {
  const { data: guide = initial } = useRead('getGuide', { params: { turn: initial.turn.id } }, { initialData: initial });
  const address = useAddress();
  const asked = address.get('attempt');
  const attempt = guide.attempts.find(({ id }) => id === asked) ?? guide.attempts[0];
  return (
    <>
      <Head guide={guide} attempt={attempt} />
      {attempt ? (
        isLive(attempt) ? (
          <Live key={attempt.id} guide={guide} attempt={attempt} />
        ) : (
          <PastScreens key={attempt.id} guide={guide} attempt={attempt} />
        )
      ) : (
        <p className="card px-5 py-6">Nobody has tried this turn yet. Once a runner does it, it can be looked at here.</p>
      )}
    </>
  );
}

function Head({ guide, attempt }: { readonly guide: GuideView; readonly attempt: AttemptView | undefined }) {
  const { base } = useProgramme();
  const { turn, version } = guide;
  return (
    <div className="mb-3">
      <p className="text-[13px] text-soft">
        <a className="hover:underline" href={`${base}/runners`}>
          Runners
        </a>{' '}
        ›{' '}
        <a className="hover:underline" href={`${base}/turns/${turn.id}`}>
          The turn
        </a>
      </p>
      <div className="flex flex-wrap items-baseline gap-x-3">
        <h1>
          {turn.title}
          {attempt && isLive(attempt) && ', as it runs'}
        </h1>
        <p className="text-[13px] text-soft">
          {turn.test !== null && <span className="font-mono">{turn.test}</span>}
          {version && ` version ${version.number} · `}
          {turn.scenario.name}
          {turn.scenario.rowName !== null && `, ${turn.scenario.rowName}`} · leg {turn.leg} of {turn.legs}
        </p>
        {attempt && (
          <p className="ml-auto">
            <StatusLabel status={attempt.outcome ?? 'under way'} />
          </p>
        )}
      </div>
      {guide.attempts.length > 1 && <Attempts attempts={guide.attempts} shown={attempt} />}
    </div>
  );
}

/** Which of several attempts is looked at. */
function Attempts({ attempts, shown }: { readonly attempts: readonly AttemptView[]; readonly shown: AttemptView | undefined }) {
  const address = useAddress();
  return (
    <nav className="mt-1 flex flex-wrap gap-1" aria-label="Attempts">
      {attempts.map(({ id, number, person, runner }) => (
        <a
          key={id}
          className={`button button-small ${id === shown?.id ? 'border-ink' : 'button-quiet'}`}
          aria-current={id === shown?.id ? 'true' : undefined}
          href={address.with({ attempt: id, step: null })}
        >
          Attempt {number}, {runner ?? person}
        </a>
      ))}
    </nav>
  );
}

interface LiveProps {
  readonly guide: GuideView;
  readonly attempt: AttemptView;
}

function Live({ guide, attempt }: LiveProps) {
  const { api } = useProgramme();
  const showRef = useRef<(frame: Frame) => void>(() => undefined);
  const card = useRef<HTMLElement>(null);
  const state = useWindow(
    toLine(`${api}/attempts/${attempt.id}/window`),
    useCallback((frame) => showRef.current(frame), []),
  );
  const who = attempt.runner ?? attempt.person;
  return (
    <div className="grid gap-4 lg:grid-cols-[minmax(0,1fr)_340px]">
      <section ref={card} className="card self-start overflow-hidden" aria-label="The application">
        <header className="flex items-center gap-2 border-b border-line-2 px-4 py-2">
          <span className={`h-2.5 w-2.5 flex-none rounded-full ${state.stands === 'live' ? 'bg-baton' : 'bg-line'}`} aria-hidden />
          <h2 className="min-w-0 truncate text-[15px]">As it is now</h2>
          <p className="min-w-0 flex-1 truncate text-[13px] text-soft">
            {attempt.environment} · {who}
            {state.watchers > 1 && ` · ${state.watchers} look`}
          </p>
          <button
            type="button"
            className="button button-quiet button-small"
            aria-label="Fill the screen"
            onClick={() => void card.current?.requestFullscreen().catch(() => undefined)}
          >
            <Maximize size={16} aria-hidden />
          </button>
        </header>
        <LiveScreen state={state} showRef={showRef} label={`The browser of ${who}, as it is now`} />
      </section>
      <WindowSteps guide={guide} attempt={attempt} at={state.at?.step ?? null} />
    </div>
  );
}

/** An address of the server as one of a line. */
function toLine(path: string): string | null {
  return typeof location === 'undefined' ? null : `${location.origin.replace(/^http/, 'ws')}${path}`;
}
