import { useRead } from '../../client/use-read.ts';
import type { CycleDetail } from '@kindred-baton/contracts/cycles/cycle';
import { lazy, Suspense } from 'react';
import { countOf, formatSpan } from '../../ui/format.ts';
import { PageTitle } from '../../ui/page-title.tsx';
import { useAddress } from '../frame/address-context.tsx';
import { AppFrame } from '../frame/app-frame.tsx';
import type { PageProps } from '../frame/app-frame.tsx';
import { useProgramme } from '../frame/programme-context.tsx';
import { GiveToRunners } from './give-to-runners.tsx';
import { Obstacles } from './obstacles.tsx';
import { MoveCycle } from './move-cycle.tsx';

const LanesView = lazy(() => import('./lanes/lanes-view.tsx').then((module) => ({ default: module.LanesView })));
const ScopeView = lazy(() => import('./scope/scope-view.tsx').then((module) => ({ default: module.ScopeView })));
const SettingsView = lazy(() => import('./settings-view.tsx').then((module) => ({ default: module.SettingsView })));
const AcceptanceView = lazy(() => import('./acceptance/acceptance-view.tsx').then((module) => ({ default: module.AcceptanceView })));
const SinceOpeningView = lazy(() => import('./scope/since-opening.tsx').then((module) => ({ default: module.SinceOpeningView })));

const VIEWS = [
  { key: 'scope', name: 'Scope' },
  { key: 'lanes', name: 'Lanes' },
  { key: 'rules', name: 'Rules' },
  { key: 'changes', name: 'Since it opened' },
  { key: 'acceptance', name: 'Acceptance' },
] as const;

const KEYS = [
  { keys: '↑ ↓', does: 'from turn to turn of a lane' },
  { keys: 'Space', does: 'choose a turn, or take it out of the choice' },
  { keys: 'Shift + click', does: 'choose all between' },
];

export function CycleApp({ content, ...frame }: PageProps<CycleDetail>) {
  return (
    <AppFrame {...frame} area="cycles" keys={KEYS}>
      <Cycle initial={content} />
    </AppFrame>
  );
}

function Cycle({ initial }: { readonly initial: CycleDetail }) {
  const { base, can } = useProgramme();
  const address = useAddress();
  const { data: cycle = initial } = useRead('getCycle', { params: { code: initial.code } }, { initialData: initial });
  const views = VIEWS.filter(({ key }) => key !== 'changes' || cycle.state !== 'planning');
  const view = views.find(({ key }) => key === address.get('view'))?.key ?? 'lanes';
  return (
    <>
      <PageTitle
        crumbs={`${formatSpan(cycle.startsOn, cycle.endsOn)} · environment ${cycle.environment}${cycle.owner ? ` · led by ${cycle.owner}` : ''}`}
        title={cycle.name}
        about={
          <>
            <span className="font-mono">{cycle.code}</span> · {cycle.purpose} · <b className="text-ink">{cycle.state}</b> ·{' '}
            {countOf(cycle.runs, 'run')}
          </>
        }
      >
        {views.map(({ key, name }) => (
          <button
            key={key}
            type="button"
            aria-pressed={view === key}
            className={`button ${view === key ? 'button-primary' : ''}`}
            onClick={() => address.set({ view: key === 'lanes' ? null : key, node: null, drop: null, page: null })}
          >
            {name}
          </button>
        ))}
        <a className="button" href={address.withScope(`${base}/cycles/${cycle.code}/turns`)}>
          Turns
        </a>
        <GiveToRunners code={cycle.code} state={cycle.state} />
        <MoveCycle cycle={cycle} />
      </PageTitle>
      {cycle.state === 'planning' && <Obstacles cycle={cycle} />}
      <Suspense fallback={<p className="text-soft">One moment …</p>}>
        {view === 'lanes' && <LanesView cycle={cycle} />}
        {view === 'scope' && <ScopeView cycle={cycle} />}
        {view === 'rules' && <SettingsView key={cycle.state} cycle={cycle} />}
        {view === 'changes' && <SinceOpeningView cycle={cycle} canTake={can('run cycles') && cycle.state === 'open'} />}
        {view === 'acceptance' && <AcceptanceView cycle={cycle} />}
      </Suspense>
    </>
  );
}
