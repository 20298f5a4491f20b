import type { HoldsView } from '@kindred-baton/contracts/progress/holds';
import type { ProgressView } from '@kindred-baton/contracts/progress/progress';
import { keepPreviousData } from '@tanstack/react-query';
import { toAddress } from '../../client/call.ts';
import { useRead } from '../../client/use-read.ts';
import { EmptyView } from '../../ui/empty-view.tsx';
import { Legend } from '../../ui/baton-mark.tsx';
import { formatSpan, listNames } from '../../ui/format.ts';
import { PageTitle } from '../../ui/page-title.tsx';
import { useAddress } from '../frame/address-context.tsx';
import { useProgramme } from '../frame/programme-context.tsx';
import { TakeRows } from '../extracts/take-rows.tsx';
import type { HoldListProps } from './hold-list.tsx';
import { HoldList } from './hold-list.tsx';
import { joinCodes } from './join-codes.ts';
import { NoCycle } from './no-cycle.tsx';
import { ProgressTable } from './progress-table.tsx';
import { ProgressTabs } from './progress-tabs.tsx';
import { HOLDS_QUERY_NAMES, readTableQuery, TABLE_QUERY_NAMES } from './table-query.ts';
import { useQueryOf } from './use-query-of.ts';
import { CycleChoice, FacetChoice, ShownChoice } from './where-controls.tsx';
import { WhereCrumbs } from './where-crumbs.tsx';
import { WhereHeadline } from './where-headline.tsx';

/** What the page came with. */
export interface WhereAnswer {
  readonly progress: ProgressView;
  readonly holds: HoldsView;
}

interface WhereViewProps {
  readonly initial: WhereAnswer | null;
  readonly initialAddress: string;
}

/** How far the chosen cycles are, over two facets, and where their batons are held. */
export function WhereView({ initial, initialAddress }: WhereViewProps) {
  const { get } = useAddress();
  const { api } = useProgramme();
  const { input, isFirst } = useQueryOf(TABLE_QUERY_NAMES, initialAddress);
  const {
    data: view,
    error,
    isPlaceholderData,
  } = useRead(
    'getProgress',
    { input },
    { ...(initial && isFirst ? { initialData: initial.progress } : {}), placeholderData: keepPreviousData },
  );
  if (!view) return <p className="text-soft">{error ? error.message : 'Counting the turns …'}</p>;
  if (view.cycles.length === 0) return <NoCycle />;
  const query = readTableQuery(get);
  const scope = get('scope');
  return (
    <>
      <PageTitle crumbs={<WhereCrumbs view={view} query={query} />} title="Progress" about={<Chosen view={view} />}>
        <CycleChoice view={view} query={query} />
        <FacetChoice query={query} />
        <TakeRows
          shown={toAddress(api, 'getProgressFile', { input: { ...withoutPages(input), view: 'where' } })}
          query={{
            cycle: joinCodes(view),
            ...(scope === null ? {} : { scope }),
            ...Object.fromEntries(query.narrowed.map(({ filter, value }) => [filter, value])),
          }}
        />
      </PageTitle>
      <ProgressTabs view="where" />
      {view.chosen.length === 0 ? (
        <div className="card">
          <EmptyView title="No cycle is of that kind at the moment">Choose another above.</EmptyView>
        </div>
      ) : (
        <div className={`grid gap-4 lg:grid-cols-[minmax(0,1fr)_340px] ${isPlaceholderData ? 'opacity-70' : ''}`}>
          <div className="min-w-0">
            <WhereHeadline view={view} query={query} />
            <ShownChoice query={query} />
            <ProgressTable view={view} query={query} />
            <div className="mt-3">
              <Legend />
            </div>
          </div>
          <Holds
            initial={initial?.holds ?? null}
            initialAddress={initialAddress}
            cycle={joinCodes(view)}
            isNarrowed={query.narrowed.length > 0}
          />
        </div>
      )}
    </>
  );
}

const withoutPages = ({ fromRow: _row, fromColumn: _column, ...query }: Record<string, string>) => query;

interface HoldsProps extends Omit<HoldListProps, 'view'> {
  readonly initial: HoldsView | null;
  readonly initialAddress: string;
}

/** Asked apart from the table, which does not wait for it. */
function Holds({ initial, initialAddress, ...list }: HoldsProps) {
  const { input, isFirst } = useQueryOf(HOLDS_QUERY_NAMES, initialAddress);
  const { data, error } = useRead(
    'getHolds',
    { input },
    { ...(initial && isFirst ? { initialData: initial } : {}), placeholderData: keepPreviousData },
  );
  return data ? <HoldList view={data} {...list} /> : <p className="text-soft">{error ? error.message : 'Looking for the batons …'}</p>;
}

function Chosen({ view: { chosen } }: { readonly view: ProgressView }) {
  const [only, ...more] = chosen;
  if (!only) return null;
  return more.length === 0 ? formatSpan(only.startsOn, only.endsOn) : `of ${listNames(chosen.map(({ name }) => name))}`;
}
