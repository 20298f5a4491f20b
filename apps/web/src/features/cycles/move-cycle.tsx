import { askAgain, useChanges } from '../../client/use-changes.ts';
import type { CycleDetail } from '@kindred-baton/contracts/cycles/cycle';
import type { CycleState } from '@kindred-baton/core/cycles/cycle';
import { listCycleMoves } from '@kindred-baton/core/cycles/cycle';
import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { DialogBox } from '../../ui/dialog.tsx';
import type { Leftover } from './close-dialog.tsx';
import { CloseDialog } from './close-dialog.tsx';
import { OlderVersions } from './obstacles.tsx';
import { countDaysBetween } from '@kindred-baton/core/time/work-days';
import { countOf, formatDay, getToday } from '../../ui/format.ts';
import { useProgramme } from '../frame/programme-context.tsx';

const MOVES: Readonly<Record<CycleState, { readonly label: string; readonly says: string }>> = {
  planning: { label: '', says: '' },
  open: { label: 'Open it', says: 'The versions of all tests are pinned, and the first turns are with their testers at once.' },
  closing: { label: 'Begin closing', says: 'From then on only retests are made. It can be opened again.' },
  closed: { label: 'Close it', says: 'A closed cycle stays as it is, for ever.' },
};

/** The cycle's next state; a plain question first, since not every move can be undone. */
export function MoveCycle({ cycle }: { readonly cycle: CycleDetail }) {
  const { can, timeZone, nowMs } = useProgramme();
  const client = useQueryClient();
  const { act } = useChanges();
  const [asked, setAsked] = useState<CycleState | null>(null);
  const today = getToday(timeZone, nowMs);
  if (!can('run cycles')) return null;
  const move = async (to: CycleState, left?: Leftover[]) => {
    setAsked(null);
    const input = { from: cycle.state, to, ...(left ? { left } : {}) };
    const done = await act('moveCycle', { params: { code: cycle.code }, input }, `${cycle.name} is ${to} now.`);
    // Somebody else may have moved it.
    if (!done) await askAgain(client, ['cycles']);
  };
  return (
    <>
      {listCycleMoves(cycle.state).map((to) => (
        <button
          key={to}
          type="button"
          className={`button ${to === 'open' && cycle.state === 'planning' ? 'button-primary' : ''}`}
          disabled={to === 'open' && cycle.obstacles.length > 0}
          onClick={() => setAsked(to)}
        >
          {cycle.state === 'closing' && to === 'open' ? 'Open again' : MOVES[to].label}
        </button>
      ))}
      {asked === 'closed' && <CloseDialog cycle={cycle} onClose={() => setAsked(null)} onDecide={(left) => void move('closed', left)} />}
      {asked && asked !== 'closed' && (
        <DialogBox title={`${MOVES[asked].label}: ${cycle.name}`} isOpen onClose={() => setAsked(null)}>
          <p>{MOVES[asked].says}</p>
          {asked === 'open' && cycle.state === 'planning' && <Early startsOn={cycle.startsOn} />}
          {asked === 'open' && <OlderVersions cycle={cycle} />}
          <div className="mt-4 flex justify-end gap-2">
            <button type="button" className="button" onClick={() => setAsked(null)}>
              Not yet
            </button>
            <button type="button" className="button button-primary" onClick={() => void move(asked)}>
              {MOVES[asked].label}
              {asked === 'open' && cycle.state === 'planning' && cycle.startsOn > today && ' before its day'}
            </button>
          </div>
        </DialogBox>
      )}
    </>
  );
}

/** Opened before its first day, its turns are with people before they expect them. */
function Early({ startsOn }: Pick<CycleDetail, 'startsOn'>) {
  const { timeZone, nowMs } = useProgramme();
  const days = countDaysBetween(getToday(timeZone, nowMs), startsOn);
  if (days <= 0) return null;
  return (
    <p className="mt-3 border-l-[3px] border-l-failed pl-2.5">
      <b>
        It begins on {formatDay(startsOn)}, in {countOf(days, 'day')}.
      </b>{' '}
      Opened today, its first turns are with their testers today, and each of them gets a letter. Its first day can be changed under Rules.
    </p>
  );
}
