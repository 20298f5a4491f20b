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
import { useProgramme } from '../frame/programme-context.tsx';

const MOVES: Readonly<Record<CycleState, { readonly label: string; readonly says: string }>> = {
  planning: { label: '', says: '' },
  open: { label: 'Open it', says: 'The versions of all tests are pinned, and the first turns are with their testers at once.' },
  closing: { label: 'Begin closing', says: 'From then on only retests are made. It can be opened again.' },
  closed: { label: 'Close it', says: 'A closed cycle stays as it is, for ever.' },
};

/** The cycle's next state; a plain question first, since not every move can be undone. */
export function MoveCycle({ cycle }: { readonly cycle: CycleDetail }) {
  const { can } = useProgramme();
  const client = useQueryClient();
  const { act } = useChanges();
  const [asked, setAsked] = useState<CycleState | null>(null);
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
          {asked === 'open' && <OlderVersions cycle={cycle} />}
          <div className="mt-4 flex justify-end gap-2">
            <button type="button" className="button" onClick={() => setAsked(null)}>
              Not yet
            </button>
            <button type="button" className="button button-primary" onClick={() => void move(asked)}>
              {MOVES[asked].label}
            </button>
          </div>
        </DialogBox>
      )}
    </>
  );
}
