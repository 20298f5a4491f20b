import type { BoardView, TileView } from '@kindred-baton/contracts/boards/board';
import Maximize from 'lucide-react/icons/maximize';
import { useEffect, useState } from 'react';
import { useChanges } from '../../client/use-changes.ts';
import { useRead } from '../../client/use-read.ts';
import { DialogBox } from '../../ui/dialog.tsx';
import { EmptyView } from '../../ui/empty-view.tsx';
import { MenuButton } from '../../ui/menus/menu-button.tsx';
import { PageTitle } from '../../ui/page-title.tsx';
import type { PageProps } from '../frame/app-frame.tsx';
import { AppFrame } from '../frame/app-frame.tsx';
import { useAddress } from '../frame/address-context.tsx';
import { useProgramme } from '../frame/programme-context.tsx';
import { ArrangeBoard } from './arrange-board.tsx';
import { BoardLinkDialog } from './board-link-dialog.tsx';
import { NameBoardDialog } from './name-board-dialog.tsx';
import { TileFrame } from './tile-frame.tsx';

const KEYS = [{ keys: 'Esc', does: 'From the wall back to the board' }];

export function BoardApp({ content, ...frame }: PageProps<BoardView>) {
  const isWall = new URL(frame.address, 'http://board').searchParams.get('wall') === 'yes';
  return (
    <AppFrame {...frame} area="progress" isBare={isWall} keys={KEYS}>
      <Board initial={content} isWall={isWall} />
    </AppFrame>
  );
}

interface BoardProps {
  readonly initial: BoardView;
  readonly isWall: boolean;
}

function Board({ initial, isWall }: BoardProps) {
  const { base } = useProgramme();
  const address = useAddress();
  const { data: board = initial, error } = useRead('getBoard', { params: { board: initial.id } }, { initialData: initial });
  const mayChange = useMayChange(board);
  useLeaveByEsc(isWall ? `${base}/boards/${board.id}` : null);
  const isArranging = mayChange && !isWall && address.get('arrange') === 'yes';
  return (
    <>
      <PageTitle
        crumbs={
          isWall ? undefined : (
            <a className="hover:underline" href={`${base}/boards`}>
              Boards
            </a>
          )
        }
        title={board.name}
        about={error ? `Not renewed: ${error.message}` : board.isMine ? undefined : `by ${board.owner}`}
      >
        {isWall ? (
          <a className="button button-small" href={`${base}/boards/${board.id}`}>
            Leave the wall
          </a>
        ) : (
          <Controls board={board} mayChange={mayChange} isArranging={isArranging} />
        )}
      </PageTitle>
      {isArranging ? <ArrangeBoard board={board} /> : <Tiles board={board} />}
    </>
  );
}

function useLeaveByEsc(to: string | null): void {
  useEffect(() => {
    const leave = ({ key, defaultPrevented }: KeyboardEvent) => {
      if (to !== null && key === 'Escape' && !defaultPrevented) location.assign(to);
    };
    addEventListener('keydown', leave);
    return () => removeEventListener('keydown', leave);
  }, [to]);
}

/** Its owner; of what is for all, whoever leads too. The server asks again. */
function useMayChange({ isMine, isShared }: BoardView): boolean {
  const { can } = useProgramme();
  return isMine || (isShared && can('run cycles'));
}

export function Tiles({ board, againMs }: { readonly board: BoardView; readonly againMs?: number }) {
  if (board.tiles.length === 0)
    return (
      <div className="card">
        <EmptyView title="Nothing on this board yet">Arrange it, and add what you look at every morning.</EmptyView>
      </div>
    );
  return (
    <div className="board grid items-stretch gap-x-4 gap-y-5 lg:grid-cols-6">
      {board.tiles.map((tile: TileView) => (
        <TileFrame key={tile.id} board={board.id} tile={tile} againMs={againMs} />
      ))}
    </div>
  );
}

interface ControlsProps {
  readonly board: BoardView;
  readonly mayChange: boolean;
  readonly isArranging: boolean;
}

function Controls({ board, mayChange, isArranging }: ControlsProps) {
  const { base, can } = useProgramme();
  const address = useAddress();
  const { act } = useChanges();
  const [asked, setAsked] = useState<string | null>(null);
  const drop = async () => {
    if ((await act('dropBoard', { params: { board: board.id } })) !== undefined) location.assign(`${base}/boards`);
  };
  const choose = (key: string) => {
    if (key === 'print') window.print();
    else setAsked(key);
  };
  const choices = [
    { key: 'print', name: 'Print, or save as PDF' },
    ...(mayChange ? [{ key: 'name', name: 'Name it anew, or share it …' }] : []),
    ...(can('run cycles') ? [{ key: 'link', name: board.link ? 'The link for observers …' : 'A link for observers …' }] : []),
    ...(mayChange ? [{ key: 'drop', name: 'Drop this board …' }] : []),
  ];
  return (
    <>
      {mayChange && (
        <button
          type="button"
          className="button aria-pressed:bg-band"
          aria-pressed={isArranging}
          onClick={() => address.set({ arrange: isArranging ? null : 'yes' })}
        >
          {isArranging ? 'It is as I want it' : 'Arrange'}
        </button>
      )}
      <a className="button" href={address.with({ wall: 'yes', arrange: null })}>
        <Maximize size={16} aria-hidden /> On the wall
      </a>
      <MenuButton label="More" choices={choices} onChoose={choose} />
      {asked === 'name' && <NameBoardDialog board={board} onClose={() => setAsked(null)} />}
      {asked === 'drop' && (
        <DialogBox title={`Drop “${board.name}”?`} isOpen onClose={() => setAsked(null)}>
          <p className="mb-4">
            Its tiles go, and its link shows nothing any more. Slices stay. <b>It cannot be taken back.</b>
          </p>
          <p className="flex justify-end gap-2">
            <button type="button" className="button" onClick={() => setAsked(null)}>
              Keep it
            </button>
            <button type="button" className="button button-primary" onClick={() => void drop()}>
              Drop it
            </button>
          </p>
        </DialogBox>
      )}
      {asked === 'link' && <BoardLinkDialog board={board} onClose={() => setAsked(null)} />}
    </>
  );
}
