import type { StripView } from '@kindred-baton/contracts/map/strip';
import type { Viewer } from '@kindred-baton/contracts/programmes/programme';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import { useState } from 'react';
import { NoticeProvider } from '../../ui/notices.tsx';
import { FindDialog } from '../find/find-dialog.tsx';
import { AMoment } from './a-moment.tsx';
import { AddressProvider } from './address-context.tsx';
import { LitProvider } from './lit-context.tsx';
import { KeysDialog } from './keys-dialog.tsx';
import type { KeyHelp } from './keys-dialog.tsx';
import { ProgrammeProvider, useProgramme } from './programme-context.tsx';
import { Strip } from './strip.tsx';
import { TopBar } from './top-bar.tsx';
import type { Area } from './top-bar.tsx';
import { useLive } from './use-live.ts';

/** What every page is given by the server. */
export interface PageProps<Content> {
  readonly viewer: Viewer;
  readonly strip: StripView | null;
  readonly address: string;
  readonly content: Content;
}

interface AppFrameProps extends Omit<PageProps<unknown>, 'content'> {
  /** null: none of the areas of the work. */
  readonly area: Area | null;
  readonly keys?: readonly KeyHelp[];
  /** Without the bar and the strip: for a wall. */
  readonly isBare?: boolean;
  readonly children: ReactNode;
}

const createClient = () => new QueryClient({ defaultOptions: { queries: { staleTime: 60_000, refetchOnWindowFocus: true, retry: 1 } } });

/** Top bar, strip, Find, notices and live updates around a view. */
export function AppFrame({ viewer, strip, address, area, keys = [], isBare = false, children }: AppFrameProps) {
  const [client] = useState(createClient);
  return (
    <QueryClientProvider client={client}>
      <AddressProvider address={address}>
        <ProgrammeProvider viewer={viewer}>
          <NoticeProvider>
            <LitProvider>
              <Live client={client} />
              <a href="#work" className="sr-only focus:not-sr-only focus:absolute focus:z-50 focus:bg-sheet focus:p-2">
                Skip to the work
              </a>
              {!isBare && <TopBar area={area} />}
              {!isBare && strip && <Strip initial={strip} />}
              <main id="work" className={isBare ? 'board-wall mx-auto px-5 py-4' : 'mx-auto max-w-[1640px] px-4 py-4 sm:px-5'}>
                {children}
              </main>
              <FindDialog />
              <KeysDialog keys={keys} />
              <AMoment />
            </LitProvider>
          </NoticeProvider>
        </ProgrammeProvider>
      </AddressProvider>
    </QueryClientProvider>
  );
}

function Live({ client }: { readonly client: QueryClient }) {
  useLive(useProgramme().api, client);
  return null;
}
