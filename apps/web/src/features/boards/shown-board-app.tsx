import type { BoardView } from '@kindred-baton/contracts/boards/board';
import type { Viewer } from '@kindred-baton/contracts/programmes/programme';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import type { MouseEvent } from 'react';
import { useState } from 'react';
import { useRead } from '../../client/use-read.ts';
import { NoticeProvider, useNotice } from '../../ui/notices.tsx';
import { PageTitle } from '../../ui/page-title.tsx';
import { FixedAddress } from '../frame/address-context.tsx';
import { ProgrammeProvider } from '../frame/programme-context.tsx';
import { Tiles } from './board-app.tsx';

const AGAIN_MS = 20_000;

interface ShownBoardProps {
  readonly viewer: Viewer;
  readonly token: string;
  readonly board: BoardView;
}

/** A board for whoever has its link: it renews itself, and what a number counts is for those who sign in. */
export function ShownBoardApp({ viewer, token, board }: ShownBoardProps) {
  const [client] = useState(() => new QueryClient({ defaultOptions: { queries: { retry: 1 } } }));
  return (
    <QueryClientProvider client={client}>
      <ProgrammeProvider viewer={viewer} api={`/api/shown/${token}`}>
        <NoticeProvider>
          <FixedAddress address={`/shown/${token}`}>
            <Shown initial={board} />
          </FixedAddress>
        </NoticeProvider>
      </ProgrammeProvider>
    </QueryClientProvider>
  );
}

function Shown({ initial }: { readonly initial: BoardView }) {
  const notify = useNotice();
  const options = { initialData: initial, refetchInterval: AGAIN_MS };
  const { data: board = initial, error } = useRead('getBoard', { params: { board: initial.id } }, options);
  const stay = (event: MouseEvent) => {
    if (!(event.target as Element).closest('a, button')) return;
    event.preventDefault();
    event.stopPropagation();
    notify({ kind: 'done', text: 'What it counts is for those who sign in.' });
  };
  return (
    <main className="board-wall mx-auto px-5 py-4">
      <PageTitle title={board.name} about={error ? `Not renewed: ${error.message}` : 'renews itself'} />
      {/* Links and buttons within lead to pages that this link does not open: by mouse or key, they say so. */}
      {}
      <div onClickCapture={stay}>
        <Tiles board={board} againMs={AGAIN_MS} />
      </div>
    </main>
  );
}
