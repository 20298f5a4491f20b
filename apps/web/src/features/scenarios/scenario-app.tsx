import { useRead } from '../../client/use-read.ts';
import type { ScenarioDetail } from '@kindred-baton/contracts/scenarios/scenario';
import { keepPreviousData } from '@tanstack/react-query';
import { lazy, Suspense } from 'react';
import { useAddress } from '../frame/address-context.tsx';
import { AppFrame } from '../frame/app-frame.tsx';
import type { PageProps } from '../frame/app-frame.tsx';
import { RelayPage } from './relay/relay-page.tsx';
import { ScenarioTabs, SCENARIO_VIEWS } from './scenario-tabs.tsx';
import { ScenarioTitle } from './scenario-title.tsx';
import { RELAY_KEYS } from './relay/use-relay-keys.ts';
import { useScenario } from './use-scenario.ts';

const WiringView = lazy(() => import('./wiring/wiring-view.tsx').then(({ WiringView: View }) => ({ default: View })));
const RowsView = lazy(() => import('./rows/rows-view.tsx').then(({ RowsView: View }) => ({ default: View })));
const MapWay = lazy(() => import('./reuse/map-way.tsx').then(({ MapWay: View }) => ({ default: View })));
const CompareView = lazy(() => import('./reuse/compare-view.tsx').then(({ CompareView: View }) => ({ default: View })));

export function ScenarioApp({ content, ...frame }: PageProps<ScenarioDetail>) {
  return (
    <AppFrame {...frame} area="scenarios" keys={RELAY_KEYS}>
      <Scenario initial={content} />
    </AppFrame>
  );
}

function Scenario({ initial }: { readonly initial: ScenarioDetail }) {
  const address = useAddress();
  const editor = useScenario(initial);
  const { scenario } = editor;
  const view = SCENARIO_VIEWS.find(({ key }) => key === address.get('view'))?.key ?? 'relay';
  const runId = address.get('run') ?? scenario.runs[0]?.id ?? null;
  const hasRun = runId !== null && runId !== 'none';
  const asked = { enabled: hasRun, placeholderData: keepPreviousData };
  const { data: overlay } = useRead('getRunOverlay', { params: { run: runId ?? '' } }, asked);
  const run = hasRun ? (overlay ?? null) : null;
  const { rows } = scenario.document;
  const row = rows.find(({ name }) => name === (address.get('row') ?? run?.rowName)) ?? rows[0] ?? null;
  return (
    <>
      <ScenarioTitle editor={editor} view={view} row={row?.name ?? null} runId={runId} />
      <ScenarioTabs editor={editor} view={view} run={hasRun && view === 'relay' ? runId : null} />
      {view === 'relay' ? (
        <RelayPage editor={editor} run={run} row={row} />
      ) : (
        <Suspense fallback={<p className="text-soft">One moment …</p>}>
          {view === 'wiring' && <WiringView editor={editor} row={row} />}
          {view === 'rows' && <RowsView editor={editor} />}
          {view === 'map' && <MapWay editor={editor} />}
          {view === 'compare' && <CompareView editor={editor} />}
        </Suspense>
      )}
    </>
  );
}
