import type { FacetFilter } from '@kindred-baton/core/progress/facet';
import { useRead } from '../../client/use-read.ts';
import type { TurnCard, TurnList } from '@kindred-baton/contracts/turns/turn';
import { keepPreviousData } from '@tanstack/react-query';
import X from 'lucide-react/icons/x';
import { BatonChip } from '../../ui/baton-chip.tsx';
import { StatusLabel } from '../../ui/baton-mark.tsx';
import { EmptyView } from '../../ui/empty-view.tsx';
import { countOf, formatDay, formatWhole } from '../../ui/format.ts';
import { PageTitle } from '../../ui/page-title.tsx';
import type { Address } from '../frame/address-context.tsx';
import { useAddress } from '../frame/address-context.tsx';
import { AppFrame } from '../frame/app-frame.tsx';
import type { PageProps } from '../frame/app-frame.tsx';
import { PagesOf } from '../frame/pages-of.tsx';
import { useProgramme } from '../frame/programme-context.tsx';

/** The filters that an address may hold, and how each is said. */
const FILTERS: Readonly<
  Record<
    FacetFilter | 'status' | 'scope' | 'test' | 'requirement' | 'defect' | 'late' | 'tried' | 'doneSince' | 'readySince' | 'run' | 'hold',
    (value: string, timeZone: string) => string
  >
> = {
  status: (value) => value.split(',').join(' or '),
  node: (value) => `at ${value}`,
  scope: (value) => `in ${value}`,
  team: (value) => `by ${value === '-' ? 'no team' : value}`,
  person: (value) => `with ${value === '-' ? 'nobody' : value}`,
  application: (value) => `in ${value === '-' ? 'no application' : value}`,
  priority: (value) => `priority ${value}`,
  test: (value) => `of test ${value}`,
  requirement: (value) => `that show ${value}`,
  defect: (value) => `at which ${value} was seen`,
  late: () => 'due before today',
  tried: (value) => `tried on ${formatDay(value)}`,
  doneSince: (value, timeZone) => `ended since ${formatWhole(value, timeZone)}`,
  readySince: (value, timeZone) => `came to hand since ${formatWhole(value, timeZone)}`,
  scenario: (value) => `of scenario ${value}`,
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
  const query = toQuery(initial.cycle.code, address.get);
  const input = Object.fromEntries(new URLSearchParams(query));
  const { data, isPlaceholderData } = useRead(
    'listTurns',
    { input },
    {
      ...(query === toQuery(initial.cycle.code, (name) => new URLSearchParams(initialAddress.split('?')[1]).get(name))
        ? { initialData: initial }
        : {}),
      placeholderData: keepPreviousData,
    },
  );
  const list = data ?? initial;
  return (
    <>
      <PageTitle
        crumbs={
          <a className="hover:underline" href={address.withScope(`${base}/cycles/${list.cycle.code}`)}>
            {list.cycle.name}
          </a>
        }
        title={countOf(list.rows.size, 'turn')}
      >
        <Filters address={address} />
      </PageTitle>
      <div className={`card overflow-x-auto px-2 ${isPlaceholderData ? 'opacity-70' : ''}`}>
        {list.turns.length > 0 ? (
          <TurnTable turns={list.turns} />
        ) : (
          <EmptyView title="No turn fits these filters">Take one of them away.</EmptyView>
        )}
      </div>
      <PagesOf noun="Turns" at={list.rows} shown={list.turns.length} param="page" />
    </>
  );
}

function toQuery(cycle: string, get: (name: string) => string | null): string {
  const params = new URLSearchParams({ cycle });
  for (const name of [...Object.keys(FILTERS), 'page']) {
    const value = get(name);
    if (value !== null) params.set(name === 'scope' ? 'node' : name, value);
  }
  const node = get('node');
  if (node !== null) params.set('node', node);
  return params.toString();
}

/** What narrows this list; each can be taken away. */
function Filters({ address }: { readonly address: Address }) {
  const { timeZone } = useProgramme();
  return Object.entries(FILTERS).flatMap(([name, say]) => {
    const value = address.get(name);
    return value === null
      ? []
      : [
          <button
            key={name}
            type="button"
            className="button button-small"
            onClick={() => address.set({ [name]: null, page: null })}
            aria-label={`Take away the filter ${say(value, timeZone)}`}
          >
            {say(value, timeZone)} <X size={14} aria-hidden />
          </button>,
        ];
  });
}

function TurnTable({ turns }: { readonly turns: readonly TurnCard[] }) {
  return (
    <table className="grid-table">
      <thead>
        <tr>
          <th scope="col">Status</th>
          <th scope="col">Turn</th>
          <th scope="col">Scenario</th>
          <th scope="col">Team</th>
          <th scope="col">With</th>
          <th scope="col">Due</th>
          <th scope="col">What it waits for, or has</th>
        </tr>
      </thead>
      <tbody>
        {turns.map((turn) => (
          <TurnLine key={turn.id} turn={turn} />
        ))}
      </tbody>
    </table>
  );
}

function TurnLine({ turn }: { readonly turn: TurnCard }) {
  const { base } = useProgramme();
  return (
    <tr className="hover:bg-band">
      <td>
        <StatusLabel status={turn.status} word={turn.isRetest && turn.state === 'ready' ? 'Ready to try again' : undefined} />
      </td>
      <td>
        <a className="font-semibold hover:underline" href={`${base}/turns/${turn.id}`}>
          {turn.title}
        </a>
        <span className="block font-mono text-[12px] text-soft">
          {turn.test ?? 'open leg'} · leg {turn.leg} of {turn.legs}
        </span>
      </td>
      <td className="text-[13px]">
        <a className="hover:underline" href={`${base}/scenarios/${turn.scenario.code}`}>
          {turn.scenario.name}
        </a>
        {turn.scenario.rowName !== null && <span className="block text-soft">{turn.scenario.rowName}</span>}
      </td>
      <td className="text-[13px]">{turn.team}</td>
      <td className="text-[13px]">{turn.assignee ?? <span className="text-failed">nobody</span>}</td>
      <td className="text-[13px] whitespace-nowrap">{turn.dueOn === null ? '–' : formatDay(turn.dueOn)}</td>
      <td className="text-[13px]">
        <Waits turn={turn} />
      </td>
    </tr>
  );
}

function Waits({ turn }: { readonly turn: TurnCard }) {
  if (turn.heldBy !== null) return <>held: {turn.heldBy}</>;
  if (turn.holder !== null) return <>{`now with ${turn.holder.person ?? 'nobody yet'}, ${turn.holder.title}`}</>;
  const handed = turn.arrivals.filter((arrival) => arrival.from !== null && arrival.value !== null);
  return (
    <span className="flex flex-wrap gap-1">
      {handed.map((arrival) => (
        <BatonChip key={arrival.name} name={arrival.name} value={arrival.value ?? ''} />
      ))}
    </span>
  );
}
