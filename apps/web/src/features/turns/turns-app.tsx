import { useRead } from '../../client/use-read.ts';
import type { TurnsHome } from '@kindred-baton/contracts/turns/turn';
import type { ReactNode } from 'react';
import { useEffect, useState } from 'react';
import { EmptyView } from '../../ui/empty-view.tsx';
import { countOf, formatMinutes } from '../../ui/format.ts';
import { Moment } from '../../ui/moment.tsx';
import { useAddress } from '../frame/address-context.tsx';
import { AppFrame } from '../frame/app-frame.tsx';
import type { PageProps } from '../frame/app-frame.tsx';
import { useProgramme } from '../frame/programme-context.tsx';
import { GUIDE_KEYS } from './guide/guide-keys.ts';
import { GuidePanel } from './guide/guide-panel.tsx';
import { TurnCardView } from './turn-card.tsx';

export function TurnsApp({ content, ...frame }: PageProps<TurnsHome>) {
  return (
    <AppFrame {...frame} area="turns" keys={GUIDE_KEYS}>
      <TurnsHomeView initial={content} />
    </AppFrame>
  );
}

/** The business tester's home: with you, on its way to you, passed on. */
export function TurnsHomeView({ initial }: { readonly initial: TurnsHome }) {
  const address = useAddress();
  const { data = initial } = useRead('getTurnsHome', {}, { initialData: initial });
  const chosen = address.get('turn');
  const [opened, setOpened] = useState<string | null>(null);
  const open = (turn: string) => {
    setOpened(turn);
    address.set({ turn });
  };
  return (
    <div className={chosen === null ? 'mx-auto max-w-[900px]' : 'grid gap-6 lg:grid-cols-[minmax(0,1fr)_400px]'}>
      <div className={chosen === null ? '' : 'hidden lg:block'}>
        <Greeting home={data} />
        <Since home={data} />
        <Part title="With you">
          {data.withYou.length > 0 ? (
            data.withYou.map((turn) => <TurnCardView key={turn.id} turn={turn} isChosen={turn.id === chosen} onOpen={open} />)
          ) : (
            <Nothing home={data} />
          )}
        </Part>
        {data.stopped.length > 0 && (
          <Part title="Stopped">
            {data.stopped.map((turn) => (
              <TurnCardView key={turn.id} turn={turn} isChosen={turn.id === chosen} onOpen={open} />
            ))}
          </Part>
        )}
        {data.leftByRunners.length > 0 && (
          <Part title="Left by runners, for your lane">
            {data.leftByRunners.map((turn) => (
              <TurnCardView key={turn.id} turn={turn} isChosen={turn.id === chosen} onOpen={open} />
            ))}
          </Part>
        )}
        {data.onItsWay.length > 0 && (
          <Part title="On its way to you" more={data.moreOnItsWay}>
            {data.onItsWay.map((turn) => (
              <TurnCardView key={turn.id} turn={turn} isChosen={turn.id === chosen} onOpen={open} />
            ))}
          </Part>
        )}
        <PassedOn home={data} onOpen={open} chosen={chosen} />
        <Mine home={data} />
      </div>
      {chosen !== null && (
        <div className="lg:sticky lg:top-[68px] lg:self-start">
          <GuidePanel key={chosen} turnId={chosen} takesFocus={chosen === opened} onClose={() => address.set({ turn: null })} />
        </div>
      )}
    </div>
  );
}

const NUMBER_WORDS = ['No', 'One', 'Two', 'Three', 'Four', 'Five', 'Six', 'Seven', 'Eight', 'Nine', 'Ten'];

function Greeting({ home }: { readonly home: TurnsHome }) {
  const { viewer, nowMs, timeZone } = useProgramme();
  const hour = Number(new Intl.DateTimeFormat('en-GB', { timeZone, hour: '2-digit', hour12: false }).format(nowMs));
  const part = hour < 12 ? 'morning' : hour < 18 ? 'afternoon' : 'evening';
  const count = home.withYou.length;
  const stopped = home.stopped.length;
  const first = viewer.person.name.split(' ')[0];
  return (
    <h1 className="mb-5" suppressHydrationWarning>
      Good {part}, {first}. {NUMBER_WORDS[count] ?? count} {count === 1 ? 'turn is' : 'turns are'} with you
      {stopped > 0 && `, ${stopped} ${stopped === 1 ? 'is' : 'are'} stopped`}.
    </h1>
  );
}

/** What happened since she last looked, in one line; she has looked when she leaves. */
function Since({ home }: { readonly home: TurnsHome }) {
  const { api } = useProgramme();
  useEffect(() => {
    const leave = () => navigator.sendBeacon(`${api}/turns/seen`);
    addEventListener('pagehide', leave);
    return () => removeEventListener('pagehide', leave);
  }, [api]);
  const { since } = home;
  if (!since) return null;
  const parts = [
    ...(since.came > 0 ? [`${countOf(since.came, 'turn')} came to you`] : []),
    ...(since.retests > 0 ? [`${countOf(since.retests, 'turn')} came back to be tried again`] : []),
    ...(since.nudges > 0 ? [`somebody asked for a baton ${since.nudges === 1 ? 'once' : `${since.nudges} times`}`] : []),
    ...(since.takenAway > 0 ? [`${countOf(since.takenAway, 'turn')} went to somebody else`] : []),
    ...(since.defectsFixed > 0 ? [`${countOf(since.defectsFixed, 'defect')} of yours moved on`] : []),
  ];
  return (
    <p className="-mt-3 mb-5 text-[13px] text-soft">
      Since you were here, <Moment at={since.at} />: {parts.length > 0 ? parts.join(', ') : 'nothing new'}.
    </p>
  );
}

/** Her own numbers, in the cycles that run. */
function Mine({ home }: { readonly home: TurnsHome }) {
  const { mine } = home;
  if (mine.turns === 0) return null;
  return (
    <section className="mt-6" aria-label="Your numbers">
      <h2 className="mb-1">Your numbers</h2>
      <p className="text-[13px] text-soft">
        {mine.done} of {countOf(mine.turns, 'turn')} tried, {mine.doneThisWeek} this week · {formatMinutes(mine.minutesDone)} of work done,{' '}
        {formatMinutes(mine.minutesLeft)} left · {countOf(mine.found, 'defect')} found
      </p>
    </section>
  );
}

function Part({ title, more = 0, children }: { readonly title: string; readonly more?: number; readonly children: ReactNode }) {
  return (
    <section className="mb-6" aria-label={title}>
      <h2 className="mb-2">{title}</h2>
      <ul className="grid gap-2.5">{children}</ul>
      {more > 0 && <p className="mt-2 text-[13px] text-soft">and {countOf(more, 'more turn')} further off</p>}
    </section>
  );
}

function Nothing({ home }: { readonly home: TurnsHome }) {
  return (
    <li className="card">
      <EmptyView title="Nothing is with you">
        {home.onItsWay.length > 0 ? (
          <p>What comes next is below, with who has it now. It moves up here by itself.</p>
        ) : (
          <p>When a turn is given to you, it stands here, with all that it needs.</p>
        )}
      </EmptyView>
    </li>
  );
}

function PassedOn({
  home,
  chosen,
  onOpen,
}: {
  readonly home: TurnsHome;
  readonly chosen: string | null;
  readonly onOpen: (id: string) => void;
}) {
  const { passed, failed, blocked, skipped, recent } = home.passedOn;
  const all = passed + failed + blocked + skipped;
  const parts = [
    `${passed} passed`,
    ...(failed > 0 ? [`${failed} failed`] : []),
    ...(blocked > 0 ? [`${blocked} blocked`] : []),
    ...(skipped > 0 ? [`${skipped} left out`] : []),
  ];
  return (
    <section aria-label="Passed on">
      <h2 className="mb-1">Passed on</h2>
      <p className="mb-2 text-[13px] text-soft">
        {all === 0 ? 'Nothing yet in the cycles that are open.' : `${countOf(all, 'turn')} · ${parts.join(', ')}`}
      </p>
      {recent.length > 0 && (
        <details>
          <summary className="mb-2 w-fit rounded-control text-[13px] font-semibold">Show the last {recent.length}</summary>
          <ul className="grid gap-2.5">
            {recent.map((turn) => (
              <TurnCardView key={turn.id} turn={turn} isChosen={turn.id === chosen} onOpen={onOpen} />
            ))}
          </ul>
        </details>
      )}
    </section>
  );
}
