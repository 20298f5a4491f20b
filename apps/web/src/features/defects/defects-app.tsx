import { useRead } from '../../client/use-read.ts';
import type { DefectList, DefectListItem } from '@kindred-baton/contracts/defects/defect';
import { isHolding, isOver } from '@kindred-baton/core/defects/defect';
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
import { useInScope } from '../frame/use-in-scope.ts';

export function DefectsApp({ content, ...frame }: PageProps<DefectList>) {
  return (
    <AppFrame {...frame} area="defects">
      <Defects initial={content} />
    </AppFrame>
  );
}

function Defects({ initial }: { readonly initial: DefectList }) {
  const { api, can } = useProgramme();
  const address = useAddress();
  const inScope = useInScope();
  const { data = initial } = useRead('listDefects', {}, { initialData: initial });
  const [isLogging, setLogging] = useState(false);
  const isBoard = address.get('view') === 'board';
  const isAll = address.get('show') === 'all';
  const here = data.defects.filter((defect) => defect.node === null || inScope(defect.node));
  const open = here.filter((defect) => isHolding(defect.status));
  const isWanted = (defect: DefectListItem) =>
    (address.get('team') === null || defect.team === address.get('team')) &&
    (address.get('with') === null || defect.assignee === address.get('with'));
  const shown = (isAll || isBoard ? here : here.filter((defect) => !isOver(defect.status)))
    .filter(isWanted)
    .sort((a, b) => b.waiting - a.waiting);
  const waiting = open.reduce((sum, defect) => sum + defect.waiting, 0);
  return (
    <>
      <PageTitle
        title="Defects"
        about={`${countOf(open.length, 'open defect')}${waiting > 0 ? `, ${countOf(waiting, 'turn')} waiting behind them` : ''}`}
      >
        <Choose
          label="Team"
          chosen={address.get('team') ?? ''}
          choices={toChoices(
            'any',
            here.map(({ team }) => team),
          )}
          onChoose={(team) => address.set({ team: team || null })}
        />
        <Choose
          label="With"
          chosen={address.get('with') ?? ''}
          choices={toChoices(
            'anybody',
            here.map(({ assignee }) => assignee),
          )}
          onChoose={(person) => address.set({ with: person || null })}
        />
        <button
          type="button"
          className={`button ${isBoard ? 'button-primary' : ''}`}
          aria-pressed={isBoard}
          onClick={() => address.set({ view: isBoard ? null : 'board' })}
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
        <button type="button" className="button" aria-pressed={isAll} onClick={() => address.set({ show: isAll ? null : 'all' })}>
          {isAll ? 'Hide closed and declined' : 'Show closed and declined too'}
        </button>
        {can('log defects') && (
          <button type="button" className="button" onClick={() => setLogging(true)}>
            Log a defect
          </button>
        )}
      </PageTitle>
      <LogDefectDialog isOpen={isLogging} onClose={() => setLogging(false)} />
      {isBoard && <DefectBoard defects={shown} isAll={isAll} />}
      <div className={isBoard ? 'hidden' : 'card overflow-x-auto px-2'}>
        {shown.length > 0 ? (
          <DefectTable defects={shown} />
        ) : (
          <EmptyView title="No open defects">A defect is logged in the guide, at the step where something went wrong.</EmptyView>
        )}
      </div>
    </>
  );
}

const toChoices = (none: string, names: readonly (string | null)[]) => [
  { key: '', name: none },
  ...[...new Set(names.flatMap((name) => name ?? []))].sort().map((name) => ({ key: name, name })),
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
