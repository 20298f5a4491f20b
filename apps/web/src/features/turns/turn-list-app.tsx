import type { Counted } from '@kindred-baton/core/progress/counted';
import { COUNTED, getCountedLabel, isWhole } from '@kindred-baton/core/progress/counted';
import { FACET_SAYINGS } from '@kindred-baton/core/progress/facet';
import { useRead } from '../../client/use-read.ts';
import type { TurnList } from '@kindred-baton/contracts/turns/turn';
import { keepPreviousData } from '@tanstack/react-query';
import X from 'lucide-react/icons/x';
import { AddressLink } from '../../ui/address-link.tsx';
import { EmptyView } from '../../ui/empty-view.tsx';
import { countOf, formatDay, formatMinutes, formatWhole } from '../../ui/format.ts';
import { PageTitle } from '../../ui/page-title.tsx';
import type { Address } from '../frame/address-context.tsx';
import { useAddress } from '../frame/address-context.tsx';
import { AppFrame } from '../frame/app-frame.tsx';
import type { PageProps } from '../frame/app-frame.tsx';
import { PagesOf } from '../frame/pages-of.tsx';
import { useProgramme } from '../frame/programme-context.tsx';
import { TakeRows } from '../extracts/take-rows.tsx';
import { joinCodes } from '../progress/join-codes.ts';
import { SliceBar } from '../boards/slice-bar.tsx';
import { AddFilter } from './add-filter.tsx';
import { CopyRows } from './copy-rows.tsx';
import { ListControls } from './list-controls.tsx';
import { readListQuery } from './list-query.ts';
import { TurnTable } from './turn-table.tsx';

const SPENT: Readonly<Record<string, string>> = { yes: '', said: ', who said what it took' };

/** The filters that an address may hold, and how each is said. The cycle is in its path. */
const { cycle: _, ...ofFacets } = FACET_SAYINGS;
const FILTERS: Readonly<Record<string, (value: string, timeZone: string) => string>> = {
  status: (value) => value.split(',').join(' or '),
  scope: (value) => `in ${value}`,
  ...ofFacets,
  requirement: (value) => `that show ${value}`,
  defect: (value) => `at which ${value} was seen`,
  late: () => 'due before today',
  spent: (value) => `tried to the end by people${SPENT[value] ?? `, last on ${formatDay(value)}`}`,
  tried: (value) => `tried on ${formatDay(value)}`,
  doneSince: (value, timeZone) => `ended since ${formatWhole(value, timeZone)}`,
  readySince: (value, timeZone) => `came to hand since ${formatWhole(value, timeZone)}`,
  run: (value) => `of run ${value}`,
  hold: () => 'waiting behind one hold',
};

export function TurnListApp({ content, ...frame }: PageProps<TurnList>) {
  return (
    <AppFrame {...frame} area="cycles">
      <Turns initial={content} initialAddress={frame.address} />
    </AppFrame>
  );
}

function Turns({ initial, initialAddress }: { readonly initial: TurnList; readonly initialAddress: string }) {
  const { base } = useProgramme();
  const address = useAddress();
  const codes = joinCodes({ chosen: initial.cycles });
  const query = toQuery(codes, address.get);
  const input = Object.fromEntries(new URLSearchParams(query));
  const { data, isPlaceholderData } = useRead(
    'listTurns',
    { input },
    {
      ...(query === toQuery(codes, (name) => new URLSearchParams(initialAddress.split('?')[1]).get(name)) ? { initialData: initial } : {}),
      placeholderData: keepPreviousData,
    },
  );
  const list = data ?? initial;
  return (
    <>
      <PageTitle
        crumbs={list.cycles.map(({ code, name }, index) => (
          <span key={code}>
            {index > 0 && ', '}
            <a className="hover:underline" href={address.withScope(`${base}/cycles/${code}`)}>
              {name}
            </a>
          </span>
        ))}
        title={countOf(list.rows.size, 'turn')}
        about={`of ${countOf(list.runs, 'run')} and ${countOf(list.tests, 'test')}, ${formatMinutes(list.minutes)} of work`}
      >
        <CopyRows query={toRowsQuery(input)} turns={list.rows.size} />
        <TakeRows query={toRowsQuery(input)} />
      </PageTitle>
      <div className="no-print mb-3 flex flex-wrap items-center gap-2">
        <Filters address={address} />
        <AddFilter cycle={codes} />
        <span className="ml-auto flex flex-wrap items-center gap-2">
          <ListControls query={readListQuery(address.get)} />
          <SliceBar view="turns" />
        </span>
      </div>
      <div className={`card overflow-x-auto px-2 ${isPlaceholderData ? 'opacity-70' : ''}`}>
        {list.turns.length > 0 ? (
          <TurnTable turns={list.turns} hasCycles={list.cycles.length > 1} query={readListQuery(address.get)} groups={list.groups} />
        ) : (
          <EmptyView title="No turn fits these filters">Take one of them away.</EmptyView>
        )}
      </div>
      <PagesOf noun="Turns" at={list.rows} shown={list.turns.length} param="page" />
    </>
  );
}

const toRowsQuery = ({ page: _page, sort: _sort, group: _group, ...query }: Record<string, string>) => query;

function toQuery(cycle: string, get: (name: string) => string | null): string {
  const params = new URLSearchParams({ cycle });
  for (const name of [...Object.keys(FILTERS), 'counted', 'sort', 'group', 'page']) {
    const value = get(name);
    if (value !== null) params.set(name === 'scope' ? 'node' : name, value);
  }
  const node = get('node');
  if (node !== null) params.set('node', node);
  return params.toString();
}

/** What narrows this list; each can be taken away. A status is that of a turn, or of the whole tests or runs that they belong to. */
function Filters({ address }: { readonly address: Address }) {
  const { timeZone } = useProgramme();
  const counted = COUNTED.find((each) => each === address.get('counted'));
  return Object.entries(FILTERS).flatMap(([name, say]) => {
    const value = address.get(name);
    if (value === null) return [];
    const said = name === 'status' ? sayStatus(say(value, timeZone), counted) : say(value, timeZone);
    const changes = { [name]: null, page: null, ...(name === 'status' ? { counted: null } : {}) };
    return [
      <AddressLink key={name} className="button button-small" changes={changes} label={`Take away the filter ${said}`}>
        {said} <X size={14} aria-hidden />
      </AddressLink>,
    ];
  });
}

const sayStatus = (status: string, counted: Counted | undefined) =>
  counted && isWhole(counted) ? `${getCountedLabel(counted).toLowerCase()} that stand as ${status}` : status;
