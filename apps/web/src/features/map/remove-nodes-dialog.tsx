import { useChanges } from '../../client/use-changes.ts';
import { useRead } from '../../client/use-read.ts';
import type { Hangs } from '@kindred-baton/contracts/map/node';
import { useState } from 'react';
import { DialogBox } from '../../ui/dialog.tsx';
import { countOf } from '../../ui/format.ts';
import { useNotice } from '../../ui/notices.tsx';
import { toMessage } from '../../client/request.ts';
import { NodeField } from './node-field.tsx';
import type { MapEditing } from './use-map-editing.ts';

interface RemoveNodesDialogProps {
  readonly codes: readonly string[];
  readonly editing: MapEditing;
  readonly onClose: () => void;
}

/** Removing says what hangs on the branch, and offers to move that elsewhere, or to retire the branch instead. */
export function RemoveNodesDialog({ codes, editing, onClose }: RemoveNodesDialogProps) {
  const { change } = useChanges();
  const notify = useNotice();
  const [isBusy, setIsBusy] = useState(false);
  const { data, error } = useRead('getHangs', { input: { codes: codes.join(',') } }, { staleTime: 0 });
  const act = async (work: () => Promise<boolean>) => {
    setIsBusy(true);
    try {
      if (await work()) onClose();
    } catch (problem) {
      notify({ kind: 'problem', text: toMessage(problem) });
    } finally {
      setIsBusy(false);
    }
  };
  const remove = () => editing.run([{ kind: 'remove', codes: [...codes] }]);
  const retire = () => editing.run(codes.map((code) => ({ kind: 'change', code, change: { isRetired: true } })));
  const move = async (to: string) => {
    await change('moveHangs', { input: { codes: [...codes], to } });
    return remove();
  };
  const isFree = data !== undefined && sum(data) === 0;
  const isKept = data !== undefined && data.turns + data.signOffs > 0;
  return (
    <DialogBox title={`Remove ${codes.length === 1 ? codes[0] : countOf(codes.length, 'node')}?`} isOpen onClose={onClose}>
      {error && <p role="alert">{toMessage(error)}</p>}
      {!data && !error && <p className="text-soft">Looking what hangs on it …</p>}
      {data && (
        <form
          onSubmit={(event) => {
            event.preventDefault();
            const to = new FormData(event.currentTarget).get('to');
            void act(() => (isFree ? remove() : move(typeof to === 'string' ? to : '')));
          }}
        >
          {isFree ? (
            <p className="mb-4">
              {data.nodes > codes.length ? `With it go ${countOf(data.nodes - codes.length, 'node')} below. ` : ''}Nothing hangs on it. It
              can be undone.
            </p>
          ) : (
            <>
              <p className="mb-2">On {countOf(data.nodes, 'node')} of it hang:</p>
              <HangsList hangs={data} />
              {isKept ? (
                <p className="mb-4 text-soft">
                  What was recorded there is kept, so it cannot be removed. Retired, it is out of the way and stays in the figures.
                </p>
              ) : (
                <NodeField label="Move all of that to" name="to" without={codes} />
              )}
            </>
          )}
          <div className="flex flex-wrap justify-end gap-2">
            <button type="button" className="button" onClick={onClose}>
              Cancel
            </button>
            {!isFree && (
              <button
                type="button"
                className={`button ${isKept ? 'button-primary' : ''}`}
                disabled={isBusy}
                onClick={() => void act(retire)}
              >
                Retire it instead
              </button>
            )}
            {!isKept && (
              <button type="submit" className="button button-primary" disabled={isBusy}>
                {isFree ? 'Remove' : 'Move, then remove'}
              </button>
            )}
          </div>
        </form>
      )}
    </DialogBox>
  );
}

const sum = ({ tests, scenarios, requirements, turns, signOffs }: Hangs) =>
  tests.length + scenarios.length + requirements.length + turns + signOffs;

const SHOWN = 5;

function HangsList({ hangs }: { readonly hangs: Hangs }) {
  const lists = [
    { word: 'test', items: hangs.tests },
    { word: 'scenario', items: hangs.scenarios },
    { word: 'requirement', items: hangs.requirements },
  ].filter(({ items }) => items.length > 0);
  return (
    <ul className="mb-3 grid gap-1 pl-4">
      {lists.map(({ word, items }) => (
        <li key={word} className="list-disc">
          <b>{countOf(items.length, word)}</b>:{' '}
          {items
            .slice(0, SHOWN)
            .map(({ name }) => name)
            .join(', ')}
          {items.length > SHOWN && ` and ${items.length - SHOWN} more`}
        </li>
      ))}
      {hangs.turns > 0 && <li className="list-disc">{countOf(hangs.turns, 'turn')} of cycles</li>}
      {hangs.signOffs > 0 && <li className="list-disc">{countOf(hangs.signOffs, 'sign-off')}</li>}
    </ul>
  );
}
