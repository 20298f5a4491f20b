import type { ScenarioList } from '@kindred-baton/contracts/scenarios/scenario';
import { lazy, Suspense } from 'react';
import { ViewTabs } from '../../ui/view-tabs.tsx';
import { useAddress } from '../frame/address-context.tsx';
import { AppFrame } from '../frame/app-frame.tsx';
import type { PageProps } from '../frame/app-frame.tsx';
import { ScenarioListView } from './scenario-list-view.tsx';

const ChainFinder = lazy(() => import('./reuse/chain-finder.tsx').then(({ ChainFinder: View }) => ({ default: View })));
const OverlapView = lazy(() => import('./reuse/overlap-view.tsx').then(({ OverlapView: View }) => ({ default: View })));
const MapGaps = lazy(() => import('./reuse/map-gaps.tsx').then(({ MapGaps: View }) => ({ default: View })));
const ReviewView = lazy(() => import('./reuse/review-view.tsx').then(({ ReviewView: View }) => ({ default: View })));

const VIEWS = [
  { key: 'list', name: 'All scenarios' },
  { key: 'find', name: 'Find a chain' },
  { key: 'overlap', name: 'Overlap' },
  { key: 'gaps', name: 'Not reached' },
  { key: 'review', name: 'Change of a test' },
] as const;

export function ScenariosApp({ content, ...frame }: PageProps<ScenarioList>) {
  return (
    <AppFrame {...frame} area="scenarios">
      <Scenarios initial={content} />
    </AppFrame>
  );
}

function Scenarios({ initial }: { readonly initial: ScenarioList }) {
  const asked = useAddress().get('view');
  const view = VIEWS.find(({ key }) => key === asked)?.key ?? 'list';
  return (
    <>
      <ViewTabs label="Views of the scenarios" views={VIEWS} view={view} />
      {view === 'list' ? (
        <ScenarioListView initial={initial} />
      ) : (
        <Suspense fallback={<p className="text-soft">One moment …</p>}>
          {view === 'find' && <ChainFinder />}
          {view === 'overlap' && <OverlapView />}
          {view === 'gaps' && <MapGaps />}
          {view === 'review' && <ReviewView />}
        </Suspense>
      )}
    </>
  );
}
