import type { TurnCard } from '@kindred-baton/contracts/turns/turn';
import { BatonChip } from '../../ui/baton-chip.tsx';
import { StatusLabel } from '../../ui/baton-mark.tsx';
import { formatDay, formatDue, getToday } from '../../ui/format.ts';
import { Moment } from '../../ui/moment.tsx';
import { useProgramme } from '../frame/programme-context.tsx';

import { DefectLinks } from '../defects/defect-links.tsx';
import { NudgeButton } from './nudge-button.tsx';

interface TurnCardProps {
  readonly turn: TurnCard;
  readonly isChosen?: boolean;
  readonly onOpen: (id: string) => void;
}

/** A turn as its tester sees it: what it is, what has come for it, and who has what is missing. */
export function TurnCardView({ turn, isChosen = false, onOpen }: TurnCardProps) {
  const handed = turn.arrivals.filter((arrival) => arrival.from !== null);
  return (
    <li className={`card relative px-4 py-3 ${isChosen ? 'border-baton-line! shadow-[0_0_0_2px_var(--baton)]' : 'hover:border-soft'}`}>
      <div className="flex flex-wrap items-start justify-between gap-x-6 gap-y-1">
        <div className="min-w-0">
          <button
            type="button"
            onClick={() => onOpen(turn.id)}
            className="text-left text-[16px] font-bold after:absolute after:inset-0 after:rounded-card"
            aria-current={isChosen || undefined}
          >
            {turn.title}
          </button>
          <p className="text-[13px] text-soft">
            {turn.scenario.name}
            {turn.scenario.rowName !== null && <> · {turn.scenario.rowName}</>} · leg {turn.leg} of {turn.legs}
          </p>
        </div>
        <div className="flex-none sm:text-right">
          <StatusLabel status={turn.status} word={turn.isRetest && turn.state === 'ready' ? 'Ready to try again' : undefined} />
          <WhenDue turn={turn} />
        </div>
      </div>
      {(handed.length > 0 || turn.heldBy !== null || turn.holder !== null || turn.stoppedBy !== null) && (
        <div className="mt-2 flex flex-wrap items-center gap-2">
          {handed.map((arrival) => (
            <BatonChip key={arrival.name} name={arrival.name} value={arrival.value ?? toPromise(turn)} />
          ))}
          <Source turn={turn} />
        </div>
      )}
    </li>
  );
}

function toPromise(turn: TurnCard): string {
  if (turn.heldBy !== null) return 'not yet';
  return turn.holder?.dueOn ? `expected ${formatDay(turn.holder.dueOn).slice(0, 3)}` : 'on its way';
}

function WhenDue({ turn }: { readonly turn: TurnCard }) {
  const { timeZone, nowMs } = useProgramme();
  if (turn.state === 'done' && turn.changedAt !== null) {
    return (
      <p className="text-[13px] text-soft">
        <Moment at={turn.changedAt} />
      </p>
    );
  }
  if (turn.dueOn === null) return null;
  const today = getToday(timeZone, nowMs);
  const isLate = turn.dueOn < today && turn.state !== 'waiting';
  return (
    <p className={`text-[13px] ${isLate ? 'font-semibold text-failed' : 'text-soft'}`} suppressHydrationWarning>
      {formatDue(turn.dueOn, today)}
    </p>
  );
}

/** By what it is stopped: the defects that must be fixed first, else what was said; and that nobody has decided yet. */
function Stopped({ turn }: { readonly turn: TurnCard }) {
  const { base } = useProgramme();
  const { words, defects } = turn.stoppedBy ?? { words: '', defects: [] };
  if (defects.length > 0)
    return (
      <span className="text-[13px] text-soft">
        {turn.status} by{' '}
        {defects.map(({ code, title }) => (
          <a key={code} className="relative z-10 mr-2 underline" href={`${base}/defects/${code}`}>
            {code}, {title}
          </a>
        ))}
      </span>
    );
  return (
    <span className="text-[13px] text-soft">
      {words === '' ? turn.status : `${turn.status}: “${words}”`}
      {turn.status === 'failed' && ' · no defect logged; open it to try again, or to hand it over'}
    </span>
  );
}

/** From whom it came, who has it now, or by what it is held. */
function Source({ turn }: { readonly turn: TurnCard }) {
  const { viewer, can } = useProgramme();
  const come = turn.arrivals.filter((arrival) => arrival.from !== null && arrival.value !== null);
  const givers = [...new Set(come.flatMap((arrival) => (arrival.from?.person ? [arrival.from.person] : [])))];
  if (turn.heldBy !== null)
    return (
      <span className="text-[13px] text-soft">
        held: <DefectLinks text={turn.heldBy} />
      </span>
    );
  if (turn.stoppedBy !== null) return <Stopped turn={turn} />;
  if (turn.holder !== null) {
    return (
      <span className="text-[13px] text-soft">
        {turn.holder.status === 'under way' ? 'under way with' : 'now with'} {turn.holder.person ?? 'nobody yet'}, {turn.holder.title}{' '}
        {turn.holder.person !== null && turn.holder.person !== viewer.person.name && can('make attempts') && (
          <NudgeButton turn={turn.holder.id} title={turn.holder.title} nudges={turn.holder.nudges} />
        )}
      </span>
    );
  }
  if (givers.length === 0) return null;
  return (
    <span className="text-[13px] text-soft">
      handed on by {givers.join(' and ')}
      {turn.changedAt !== null && turn.state === 'ready' && (
        <>
          , <Moment at={turn.changedAt} />
        </>
      )}
    </span>
  );
}
