import type { BoardList } from '@kindred-baton/contracts/boards/board';
import LayoutDashboard from 'lucide-react/icons/layout-dashboard';
import { useState } from 'react';
import { useChanges } from '../../client/use-changes.ts';
import { useShown } from '../../client/use-read.ts';
import { DialogBox } from '../../ui/dialog.tsx';
import { EmptyView } from '../../ui/empty-view.tsx';
import { TextField } from '../../ui/field.tsx';
import { countOf } from '../../ui/format.ts';
import { PageTitle } from '../../ui/page-title.tsx';
import { FormFoot, useForm } from '../../ui/use-form.tsx';
import type { PageProps } from '../frame/app-frame.tsx';
import { AppFrame } from '../frame/app-frame.tsx';
import { useProgramme } from '../frame/programme-context.tsx';
import { ShareField } from './share-field.tsx';

export function BoardsApp({ content, ...frame }: PageProps<BoardList>) {
  return (
    <AppFrame {...frame} area="progress">
      <Boards initial={content} />
    </AppFrame>
  );
}

/** The boards that there are: one's own, and those for all. */
function Boards({ initial }: { readonly initial: BoardList }) {
  const { base } = useProgramme();
  const boards = useShown('listBoards', {}, initial);
  const [isMaking, setIsMaking] = useState(false);
  return (
    <>
      <PageTitle
        crumbs={
          <a className="hover:underline" href={`${base}/progress`}>
            Progress
          </a>
        }
        title="Boards"
        about="Slices and figures side by side, always as they stand"
      >
        <button type="button" className="button button-primary" onClick={() => setIsMaking(true)}>
          Make a board
        </button>
      </PageTitle>
      {boards.length === 0 ? (
        <div className="card">
          <EmptyView title="No board yet">Make one, and put on it what you look at every morning.</EmptyView>
        </div>
      ) : (
        <ul className="grid gap-3 sm:grid-cols-2 lg:grid-cols-3">
          {boards.map((board) => (
            <li key={board.id}>
              <a className="card flex items-start gap-3 px-4 py-3.5 hover:bg-band" href={`${base}/boards/${board.id}`}>
                <LayoutDashboard size={22} aria-hidden className="mt-0.5 flex-none text-soft" />
                <span className="min-w-0">
                  <b className="block text-[16px] break-words">{board.name}</b>
                  <span className="text-[13px] text-soft">
                    {countOf(board.tiles, 'tile')} · {board.isMine ? 'yours' : `by ${board.owner}`}
                    {board.isShared && ', for all'}
                    {board.hasLink && ' · shown by a link'}
                  </span>
                </span>
              </a>
            </li>
          ))}
        </ul>
      )}
      {isMaking && <MakeBoard onClose={() => setIsMaking(false)} />}
    </>
  );
}

function MakeBoard({ onClose }: { readonly onClose: () => void }) {
  const { base } = useProgramme();
  const { change } = useChanges();
  const form = useForm(async ({ name = '', shared }) => {
    const { id } = await change('makeBoard', { input: { name, isShared: shared !== undefined, tiles: [] } });
    location.assign(`${base}/boards/${id}?arrange=yes`);
  });
  return (
    <DialogBox title="Make a board" isOpen onClose={onClose}>
      <form onSubmit={form.onSubmit}>
        <TextField label="Name" name="name" required maxLength={200} hint="Such as: Monday round" problem={form.problemOf('name')} />
        <ShareField isShared={false} what="board" />
        <FormFoot form={form} label="Make it" onCancel={onClose} />
      </form>
    </DialogBox>
  );
}
