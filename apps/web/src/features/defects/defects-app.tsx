import { useShown } from '../../client/use-read.ts';
import type { DefectListItem, DefectPage } from '@kindred-baton/contracts/defects/defect';
import { getHappeningLabel } from '@kindred-baton/core/defects/happenings';
import { NONE } from '@kindred-baton/core/progress/facet';
import { EmptyView } from '../../ui/empty-view.tsx';
import { Choose } from '../../ui/menus/choose.tsx';
import { countOf, formatDay } from '../../ui/format.ts';
import { MenuButton } from '../../ui/menus/menu-button.tsx';
import { useState } from 'react';
import { DefectBoard } from './defect-board.tsx';
import { LogDefectDialog } from './log-defect-dialog.tsx';
import { Moment } from '../../ui/moment.tsx';
import { PageTitle } from '../../ui/page-title.tsx';
import { useAddress } from '../frame/address-context.tsx';
import { AppFrame } from '../frame/app-frame.tsx';
import type { PageProps } from '../frame/app-frame.tsx';
import { useProgramme } from '../frame/programme-context.tsx';
import { PagesOf } from '../frame/pages-of.tsx';
import { readDefectQuery } from './read-defect-query.ts';

export function DefectsApp({ content, ...frame }: PageProps<DefectPage>) {
  return (
    <AppFrame {...frame} area="defects">
      <Defects initial={content} />
    </AppFrame>
  );
}

function Defects({ initial }: { readonly initial: DefectPage }) {
  const { api, can } = useProgramme();
  const address = useAddress();
  const data = useShown('listDefects', { input: readDefectQuery(address.get) }, initial);
  const [isLogging, setLogging] = useState(false);
  const isBoard = address.get('view') === 'board';
  const isAll = address.get('show') === 'all';
  const narrow = (to: Record<string, string | null>) => address.set({ ...to, page: null });
  return (
    <>
      <PageTitle
        title="Defects"
        about={`${countOf(data.open, 'open defect')}${data.waiting > 0 ? `, ${countOf(data.waiting, 'turn')} waiting behind them` : ''}`}
      >
        <Choose
          label="Team"
          chosen={address.get('team') ?? ''}
          choices={toChoices('any', data.teams, address.get('team'))}
          onChoose={(team) => narrow({ team: team || null })}
        />
        <Choose
          label="With"
          chosen={address.get('with') ?? ''}
          choices={toChoices('anybody', data.people, address.get('with'))}
          onChoose={(person) => narrow({ with: person || null })}
        />
        <button
          type="button"
          className={`button ${isBoard ? 'button-primary' : ''}`}
          aria-pressed={isBoard}
          onClick={() => narrow({ view: isBoard ? null : 'board', column: null })}
        >
          Board
        </button>
        <MenuButton
          label="Take away"
          choices={[
            { key: 'csv', name: 'Table (CSV)', href: `${api}/defects/export?format=csv`, isDownload: true },
            { key: 'json', name: 'For a program (JSON)', href: `${api}/defects/export?format=json`, isDownload: true },
          ]}
        />
        <button type="button" className="button" aria-pressed={isAll} onClick={() => narrow({ show: isAll ? null : 'all' })}>
          {isAll ? 'Hide closed and declined' : 'Show closed and declined too'}
        </button>
        {can('log defects') && (
          <button type="button" className="button" onClick={() => setLogging(true)}>
            Log a defect
          </button>
        )}
      </PageTitle>
      <NarrowedTo found={data.rows.size} isBoard={isBoard} />
      <LogDefectDialog isOpen={isLogging} onClose={() => setLogging(false)} />
      {isBoard && <DefectBoard columns={data.columns} more={data.more} />}
      <div className={isBoard ? 'hidden' : 'card overflow-x-auto px-2'}>
        {data.defects.length > 0 ? (
          <DefectTable defects={data.defects} />
        ) : (
          <EmptyView title="No open defects">A defect is logged in the guide, at the step where something went wrong.</EmptyView>
        )}
      </div>
      {!isBoard && <PagesOf noun="Defects" at={data.rows} shown={data.defects.length} param="page" />}
    </>
  );
}

/** Of what an address asks that has no choice above: said, and taken back at once. */
function NarrowedTo({ found, isBoard }: { readonly found: number; readonly isBoard: boolean }) {
  const { nameOf } = useProgramme();
  const address = useAddress();
  const { cycle, severity, happened, on, team, column } = readDefectQuery(address.get);
  const said = [
    ...(cycle === undefined ? [] : [`of ${cycle}`]),
    ...(severity === undefined ? [] : [`“${nameOf(severity)}”`]),
    ...(team === NONE ? ['at no turn of a team'] : []),
    ...(happened === undefined ? [] : [`${getHappeningLabel(happened)}${on === undefined ? ' at least once' : ` on ${formatDay(on)}`}`]),
    ...(column === undefined || isBoard ? [] : ['in one column of the board']),
  ];
  if (said.length === 0) return null;
  const everything = {
    ...{ cycle: null, severity: null, happened: null, on: null, column: null, page: null },
    ...(team === NONE ? { team: null } : {}),
  };
  return (
    <p className="mb-2 flex flex-wrap items-center gap-2 text-[13px]">
      Only those {said.join(', ')}
      {isBoard ? '.' : `: ${countOf(found, 'defect')}.`}
      <button type="button" className="button button-small" onClick={() => address.set(everything)}>
        Show all
      </button>
    </p>
  );
}

/** What is chosen can be taken back, also where the list is of none any more. */
const toChoices = (none: string, names: readonly string[], chosen: string | null) => [
  { key: '', name: none },
  ...[...new Set([...names, ...(chosen === null || chosen === NONE ? [] : [chosen])])].map((name) => ({ key: name, name })),
  ...(chosen === NONE ? [{ key: NONE, name: 'none' }] : []),
];

function DefectTable({ defects }: { readonly defects: readonly DefectListItem[] }) {
  const { base, nameOf } = useProgramme();
  return (
    <table className="grid-table">
      <thead>
        <tr>
          <th scope="col">Waiting</th>
          <th scope="col">Code</th>
          <th scope="col">Defect</th>
          <th scope="col">Status</th>
          <th scope="col">Severity</th>
          <th scope="col">Priority</th>
          <th scope="col">Team</th>
          <th scope="col">With</th>
          <th scope="col">Found</th>
        </tr>
      </thead>
      <tbody>
        {defects.map((defect) => (
          <tr key={defect.code} className="hover:bg-band">
            <td className="text-right text-[17px] font-bold">
              {defect.waiting > 0 ? defect.waiting : <span className="font-normal text-soft">–</span>}
            </td>
            <td className="font-mono text-[13px] text-soft">{defect.code}</td>
            <td>
              <a className="font-semibold hover:underline" href={`${base}/defects/${defect.code}`}>
                {defect.title}
              </a>
              <span className="block text-[13px] text-soft">{defect.cycle.name}</span>
            </td>
            <td>
              <span className="tag">{defect.status}</span>
            </td>
            <td className="text-[13px]">{nameOf(defect.severity)}</td>
            <td className="text-[13px]">{defect.priority}</td>
            <td className="text-[13px]">{defect.team}</td>
            <td className="text-[13px] whitespace-nowrap">
              {defect.assignee ?? <span className="text-soft">nobody</span>}
              {defect.dueOn !== null && <span className="block text-soft">due {formatDay(defect.dueOn)}</span>}
            </td>
            <td className="text-[13px] whitespace-nowrap">
              {defect.foundBy}
              <span className="block text-soft">
                <Moment at={defect.foundAt} />
              </span>
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
