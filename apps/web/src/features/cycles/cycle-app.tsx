import type { CycleDetail } from '@kindred-baton/contracts/cycles/cycle';
import { useQuery } from '@tanstack/react-query';
import { countOf, formatSpan } from '../../ui/format.ts';
import { PageTitle } from '../../ui/page-title.tsx';
import { getJson } from '../../ui/request.ts';
import { useAddress } from '../frame/address-context.tsx';
import { AppFrame } from '../frame/app-frame.tsx';
import type { PageProps } from '../frame/app-frame.tsx';
import { useProgramme } from '../frame/programme-context.tsx';
import { CycleSummary } from './cycle-summary.tsx';
import { MapChanges } from './map-changes.tsx';
import { LaneTable } from './lane-table.tsx';
import { MoveCycle } from './move-cycle.tsx';
import { RunTable } from './run-table.tsx';
import { SignOffTable } from './sign-off-table.tsx';

const VIEWS = ['lanes', 'runs', 'sign-offs', 'map'] as const;
type View = (typeof VIEWS)[number];
const VIEW_WORDS: Readonly<Record<View, string>> = { lanes: 'Lanes', runs: 'Runs', 'sign-offs': 'Sign-offs', map: 'Map changes' };

export function CycleApp({ content, ...frame }: PageProps<CycleDetail>) {
  return (
    <AppFrame {...frame} area="cycles">
      <Cycle initial={content} />
    </AppFrame>
  );
}

function Cycle({ initial }: { readonly initial: CycleDetail }) {
  const { api, base } = useProgramme();
  const address = useAddress();
  const { data: cycle } = useQuery({
    queryKey: ['cycles', initial.code],
    queryFn: () => getJson<CycleDetail>(`${api}/cycles/${initial.code}`),
    initialData: initial,
  });
  const view = VIEWS.find((candidate) => candidate === address.get('view')) ?? 'lanes';
  return (
    <>
      <PageTitle
        crumbs={`${formatSpan(cycle.startsOn, cycle.endsOn)} · environment ${cycle.environment}${cycle.owner ? ` · led by ${cycle.owner}` : ''}`}
        title={cycle.name}
        about={
          <>
            <span className="font-mono">{cycle.code}</span> · {cycle.purpose} · <b className="text-ink">{cycle.state}</b> ·{' '}
            {countOf(cycle.runs.length, 'run')}
          </>
        }
      >
        {VIEWS.filter(
          (candidate) => (candidate !== 'sign-offs' || cycle.signOffs.length > 0) && (candidate !== 'map' || cycle.state !== 'planning'),
        ).map((candidate) => (
          <button
            key={candidate}
            type="button"
            aria-pressed={view === candidate}
            className={`button ${view === candidate ? 'button-primary' : ''}`}
            onClick={() => address.set({ view: candidate })}
          >
            {VIEW_WORDS[candidate]}
          </button>
        ))}
        <a className="button" href={address.withScope(`${base}/cycles/${cycle.code}/turns`)}>
          Turns
        </a>
        <MoveCycle cycle={cycle} />
      </PageTitle>
      <div className="grid gap-4 lg:grid-cols-[minmax(0,1fr)_300px]">
        <div className="min-w-0">
          {view === 'lanes' && <LaneTable cycle={cycle} />}
          {view === 'runs' && <RunTable cycle={cycle} />}
          {view === 'sign-offs' && <SignOffTable cycle={cycle} />}
          {view === 'map' && <MapChanges code={cycle.code} />}
        </div>
        <CycleSummary cycle={cycle} />
      </div>
    </>
  );
}
