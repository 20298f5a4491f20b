import type { BoardView } from '@kindred-baton/contracts/boards/board';
import { useState } from 'react';
import { useChanges } from '../../client/use-changes.ts';
import { DialogBox } from '../../ui/dialog.tsx';
import { formatMoment } from '../../ui/format.ts';
import { useCopy } from '../../ui/use-copy.ts';
import { useProgramme } from '../frame/programme-context.tsx';

/** A link that shows the board without signing in: made, shown once, withdrawn. */
export function BoardLinkDialog({ board, onClose }: { readonly board: BoardView; readonly onClose: () => void }) {
  const { timeZone, nowMs } = useProgramme();
  const { act } = useChanges();
  const copyText = useCopy();
  const [token, setToken] = useState<string | null>(null);
  const params = { board: board.id };
  const make = async () => setToken((await act('makeBoardLink', { params }))?.token ?? null);
  const withdraw = async () => {
    setToken(null);
    await act('withdrawBoardLink', { params }, 'The link shows nothing any more.');
  };
  const link = `${window.location.origin}/shown/${token ?? ''}`;
  return (
    <DialogBox title="A link for observers" isOpen onClose={onClose} width={600}>
      <p className="mb-3">
        Whoever has the link sees this board as it stands, without an account: its figures, and no other page. Tiles that name people, and
        who is waited for, are left out.
      </p>
      {token !== null && (
        <>
          <p className="mb-1.5">
            It is shown <b>now and never again</b>.
          </p>
          <input
            className="field font-mono text-[13px]!"
            readOnly
            aria-label="Link to the board"
            value={link}
            onFocus={(event) => event.target.select()}
          />
        </>
      )}
      {board.link && token === null && (
        <p className="text-[13px] text-soft" suppressHydrationWarning>
          There is one, made {formatMoment(board.link.madeAt, timeZone, nowMs)},{' '}
          {board.link.usedAt === null ? 'never opened yet' : `last opened ${formatMoment(board.link.usedAt, timeZone, nowMs)}`}. Another
          takes its place.
        </p>
      )}
      <p className="mt-4 flex flex-wrap justify-end gap-2">
        {board.link && (
          <button type="button" className="button mr-auto" onClick={() => void withdraw()}>
            Withdraw the link
          </button>
        )}
        {token === null ? (
          <button type="button" className="button button-primary" onClick={() => void make()}>
            {board.link ? 'Make another' : 'Make the link'}
          </button>
        ) : (
          <button type="button" className="button button-primary" onClick={() => void copyText(link)}>
            Copy
          </button>
        )}
        <button type="button" className="button" onClick={onClose}>
          Close
        </button>
      </p>
    </DialogBox>
  );
}
