import type { Effort, EffortBy, EffortCell } from '@kindred-baton/contracts/progress/effort';
import { CYCLE_GROUPS, getCycleGroupLabel } from '@kindred-baton/core/cycles/cycle-groups';
import { SHORTEST_PAUSE_MINUTES } from '@kindred-baton/core/progress/effort';
import { keepPreviousData } from '@tanstack/react-query';
import { useRead } from '../../../client/use-read.ts';
import { EmptyView } from '../../../ui/empty-view.tsx';
import { countOf, formatDay, formatMinutes } from '../../../ui/format.ts';
import { Choose } from '../../../ui/menus/choose.tsx';
import { PageTitle } from '../../../ui/page-title.tsx';
import { useAddress } from '../../frame/address-context.tsx';
import { useProgramme } from '../../frame/programme-context.tsx';
import { NoCycle } from '../no-cycle.tsx';
import { ProgressTabs } from '../progress-tabs.tsx';
import { isSlow } from '../is-slow.ts';
import { toTurnsPath } from '../to-turns-path.ts';
import { useQueryOf } from '../use-query-of.ts';
import { MinutesPart } from './minutes-part.tsx';

const BY: readonly { readonly key: EffortBy; readonly name: string }[] = [
  { key: 'team', name: 'team' },
  { key: 'process', name: 'process' },
  { key: 'day', name: 'day' },
];
const LAST = '@last';

/** What turns were planned and took, cycle beside cycle. Without an answer of the page's own it is asked for. */
export function EffortView({ initial, initialAddress }: { readonly initial: Effort | null; readonly initialAddress: string }) {
  const address = useAddress();
  const { input, isFirst } = useQueryOf(['cycle', 'scope', 'by'], initialAddress);
  const { data, error, isPlaceholderData } = useRead(
    'getEffort',
    { input },
    { ...(initial && isFirst ? { initialData: initial } : {}), placeholderData: keepPreviousData },
  );
  if (data?.cycles.length === 0) return <NoCycle />;
  const by = BY.find(({ key }) => key === input['by'])?.key ?? 'team';
  return (
    <>
      <PageTitle title="Progress">
        {data && <CyclesChoice view={data} />}
        <Choose label="By" chosen={by} choices={BY} onChoose={(key) => address.set({ by: key === 'team' ? null : key })} />
      </PageTitle>
      <ProgressTabs view="effort" />
      {!data ? (
        <p className="text-soft">{error ? error.message : 'Adding up the minutes …'}</p>
      ) : (
        <div className={`grid grid-cols-[minmax(0,1fr)] gap-4 ${isPlaceholderData ? 'opacity-70' : ''}`}>
          {data.lines.length === 0 ? (
            <div className="card">
              <EmptyView title="Nobody has tried a turn to the end here yet">
                What turns take is told from the first on that ends.
              </EmptyView>
            </div>
          ) : (
            <div>
              <EffortHeadline view={data} />
              <EffortTable view={data} by={by} />
            </div>
          )}
          <MinutesPart />
        </div>
      )}
    </>
  );
}

function CyclesChoice({ view: { cycles, chosen } }: { readonly view: Effort }) {
  const address = useAddress();
  const asked = address.get('cycle') ?? LAST;
  const known = [
    ...CYCLE_GROUPS.map((group) => ({ key: group as string, name: getCycleGroupLabel(group) })),
    ...cycles.map(({ code, name }) => ({ key: code, name })),
  ];
  const several = known.some(({ key }) => key === asked) ? [] : [{ key: asked, name: countOf(chosen.length, 'cycle') }];
  return <Choose label="Cycle" chosen={asked} choices={[...several, ...known]} onChoose={(cycle) => address.set({ cycle })} />;
}

const perTurn = (minutes: number, { tried }: EffortCell) => formatMinutes(Math.round(minutes / tried));

/** Of the newest cycle that has any: what a turn takes beside what it was planned. */
function EffortHeadline({ view: { chosen, totals } }: { readonly view: Effort }) {
  const at = totals.findLastIndex(({ tried }) => tried > 0);
  const [cell, cycle] = [totals[at], chosen[at]];
  if (!cell || !cycle) return null;
  const beside = cell.planned === 0 ? 0 : Math.round((cell.spent / cell.planned - 1) * 100);
  return (
    <p className="mb-3 text-[19px]">
      A turn takes <strong className="text-[26px]">{perTurn(cell.spent, cell)}</strong> and was planned for {perTurn(cell.planned, cell)}
      <span className="text-[15px] text-soft">
        {beside === 0 ? ', as planned' : `: ${Math.abs(beside)} % ${beside > 0 ? 'more' : 'less'}`}, over {countOf(cell.tried, 'turn')} that
        people tried to the end in {cycle.name}
      </span>
    </p>
  );
}

interface TableProps {
  readonly view: Effort;
  readonly by: EffortBy;
}

function EffortTable({ view, by }: TableProps) {
  const { chosen, lines, totals } = view;
  return (
    <div className="card overflow-x-auto px-2">
      <table className="grid-table">
        <thead>
          <tr>
            <th scope="col" rowSpan={2}>
              {by === 'team' ? 'Team' : by === 'process' ? 'Process' : 'Day on which they ended'}
            </th>
            {chosen.map(({ code, name }) => (
              <th key={code} scope="colgroup" colSpan={3} className="border-l border-line-2 text-center!">
                {name}
              </th>
            ))}
          </tr>
          <tr>
            {chosen.flatMap(({ code }) =>
              ['Turns', 'Planned a turn', 'Spent a turn'].map((head, at) => (
                <th key={`${code} ${head}`} scope="col" className={`text-right! ${at === 0 ? 'border-l border-line-2' : ''}`}>
                  {head}
                </th>
              )),
            )}
          </tr>
        </thead>
        <tbody>
          {lines.map(({ key, name, cells }) => (
            <tr key={key} className="hover:bg-band">
              <th scope="row" className="border-b-line-2! whitespace-normal! text-ink!">
                {by === 'day' ? formatDay(name) : name}
              </th>
              <Cells chosen={chosen} cells={cells} own={toFilter(by, key)} />
            </tr>
          ))}
        </tbody>
        <tfoot>
          <tr className="font-semibold">
            <th scope="row">All</th>
            <Cells chosen={chosen} cells={totals} own={{ spent: 'yes' }} />
          </tr>
        </tfoot>
      </table>
      <p className="border-t border-line-2 px-2 py-2.5 text-[13px] text-soft">
        Turns that people tried to the end, with all their attempts: the times between one word and the next. A pause longer than the turn
        was planned, and than {SHORTEST_PAUSE_MINUTES} minutes, is taken out, and where a tester said what an attempt took, that counts
        <Corrected view={view} />. Bold is over a tenth longer than planned.
      </p>
    </div>
  );
}

/** In how many turns testers said otherwise, each cycle's own. */
function Corrected({ view: { chosen, corrected } }: { readonly view: Effort }) {
  const { base } = useProgramme();
  const scope = useAddress().get('scope');
  const own = chosen.map((cycle, at) => ({ ...cycle, turns: corrected[at] ?? 0 })).filter(({ turns }) => turns > 0);
  if (own.length === 0) return ' (nobody did)';
  return own.map(({ code, name, turns }, at) => (
    <span key={code}>
      {at === 0 ? ': ' : ', '}
      <a className="underline" href={toTurnsPath({ base, cycle: code, scope, filters: { spent: 'said' } })}>
        {countOf(turns, 'turn')}
      </a>{' '}
      of {name}
    </span>
  ));
}

const toFilter = (by: EffortBy, key: string): Record<string, string> =>
  by === 'day' ? { spent: key } : { spent: 'yes', ...(by === 'team' ? { team: key } : { node: key }) };

interface CellsProps {
  readonly chosen: Effort['chosen'];
  readonly cells: readonly EffortCell[];
  readonly own: Readonly<Record<string, string>>;
}

function Cells({ chosen, cells, own }: CellsProps) {
  const { base } = useProgramme();
  const scope = useAddress().get('scope');
  return chosen.map(({ code }, at) => {
    const cell = cells[at];
    if (!cell || cell.tried === 0)
      return (
        <td key={code} colSpan={3} className="border-l border-line-2 text-center text-soft">
          –
        </td>
      );
    return [
      <td key={`${code} turns`} className="border-l border-line-2 text-right font-mono">
        <a className="inline-block min-h-[24px] hover:underline" href={toTurnsPath({ base, cycle: code, scope, filters: { ...own } })}>
          {cell.tried.toLocaleString('en')}
        </a>
      </td>,
      <td key={`${code} planned`} className="text-right font-mono whitespace-nowrap text-soft">
        {perTurn(cell.planned, cell)}
      </td>,
      <td key={`${code} spent`} className={`text-right font-mono whitespace-nowrap ${isSlow(cell) ? 'font-bold' : ''}`}>
        {perTurn(cell.spent, cell)}
      </td>,
    ];
  });
}
