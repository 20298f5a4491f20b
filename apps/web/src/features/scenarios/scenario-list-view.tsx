import { useRead, useShown } from '../../client/use-read.ts';
import type { ScenarioList, ScenarioListItem } from '@kindred-baton/contracts/scenarios/scenario';
import FileUp from 'lucide-react/icons/file-up';
import Plus from 'lucide-react/icons/plus';
import { useState } from 'react';
import { EmptyView } from '../../ui/empty-view.tsx';
import { countOf } from '../../ui/format.ts';
import { Pages, readPage } from '../../ui/pages.tsx';
import { PageTitle } from '../../ui/page-title.tsx';
import { useAddress } from '../frame/address-context.tsx';
import { useProgramme } from '../frame/programme-context.tsx';
import { NewScenarioDialog } from './new-scenario-dialog.tsx';

export function ScenarioListView({ initial }: { readonly initial: ScenarioList }) {
  const { base, can } = useProgramme();
  const address = useAddress();
  const scope = address.get('scope');
  const within = scope === null ? {} : { scope };
  const data = useShown('listScenarios', { input: { ...within, page: readPage(address.get('page')) } }, initial);
  const { data: counted, error } = useRead('countToFix', { input: within }, { enabled: data.toFix === null });
  const [isAdding, setIsAdding] = useState(false);
  const from = data.page === data.pages ? data.total - data.scenarios.length : (data.page - 1) * data.scenarios.length;
  const go = (to: number) => address.set({ page: to === 1 ? null : String(to) });
  return (
    <>
      <PageTitle title="Scenarios" about={`${countOf(data.total, 'scenario')}${describeArrival(data.toFix ?? counted?.toFix, error)}`}>
        {can('edit scenarios') && (
          <>
            <a className="button" href={`${base}/map/import?kind=scenario`}>
              <FileUp size={16} aria-hidden /> Import
            </a>
            <button type="button" className="button button-primary" onClick={() => setIsAdding(true)}>
              <Plus size={17} aria-hidden /> New scenario
            </button>
          </>
        )}
      </PageTitle>
      <div className="card overflow-x-auto px-2">
        {data.total > 0 ? (
          <ScenarioTable scenarios={data.scenarios} />
        ) : (
          <EmptyView title="No scenario here yet">
            A scenario chains tests of several teams from the first request to the last posting. Begin one as a sketch; its tests may come
            later.
          </EmptyView>
        )}
      </div>
      <Pages
        {...{ noun: 'Scenarios', from, to: from + data.scenarios.length - 1, size: data.total }}
        onBefore={() => go(data.page - 1)}
        onNext={() => go(data.page + 1)}
      />
      <NewScenarioDialog isOpen={isAdding} onClose={() => setIsAdding(false)} />
    </>
  );
}

/** Undefined: not all of them were looked at yet. */
function describeArrival(toFix: number | undefined, error: Error | null): string {
  if (toFix === undefined)
    return error ? ` · whether every baton arrives is not known: ${error.message}` : ' · looking whether every baton arrives …';
  return toFix === 0 ? ' · every baton arrives' : ` · ${toFix.toLocaleString('en')} with a baton that does not arrive`;
}

function ScenarioTable({ scenarios }: { readonly scenarios: readonly ScenarioListItem[] }) {
  const { base } = useProgramme();
  const { withScope } = useAddress();
  return (
    <table className="grid-table">
      <thead>
        <tr>
          <th scope="col">Code</th>
          <th scope="col">Scenario</th>
          <th scope="col">Where</th>
          <th scope="col">Legs</th>
          <th scope="col">Data rows</th>
          <th scope="col">Teams</th>
          <th scope="col">Wiring</th>
        </tr>
      </thead>
      <tbody>
        {scenarios.map((scenario) => (
          <tr key={scenario.id} className="hover:bg-band">
            <td className="font-mono text-[13px] text-soft">{scenario.code}</td>
            <td>
              <a className="font-semibold hover:underline" href={withScope(`${base}/scenarios/${scenario.code}`)}>
                {scenario.name}
              </a>
              {scenario.state !== 'agreed' && <span className="tag ml-2">{scenario.state}</span>}
            </td>
            <td className="text-[13px]">{scenario.node.name}</td>
            <td className="whitespace-nowrap">
              {scenario.legs}
              {scenario.openLegs > 0 && <span className="text-[13px] text-soft"> · {scenario.openLegs} open</span>}
            </td>
            <td>{scenario.rows}</td>
            <td className="text-[13px] text-soft">{scenario.teams.join(', ')}</td>
            <td className="text-[13px] whitespace-nowrap">
              <Wiring scenario={scenario} />
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Wiring({ scenario }: { readonly scenario: ScenarioListItem }) {
  const { base } = useProgramme();
  const { withScope } = useAddress();
  const offers = scenario.offers > 0 ? countOf(scenario.offers, 'newer version') : '';
  if (scenario.errors > 0)
    return (
      <a className="font-bold text-failed hover:underline" href={withScope(`${base}/scenarios/${scenario.code}?view=wiring`)}>
        {scenario.errors} to fix
      </a>
    );
  if (scenario.legs === 0) return <span className="text-soft">no legs</span>;
  const words = [scenario.warnings > 0 ? countOf(scenario.warnings, 'warning') : 'arrives', offers].filter((word) => word !== '');
  return <span className="text-soft">{words.join(' · ')}</span>;
}
