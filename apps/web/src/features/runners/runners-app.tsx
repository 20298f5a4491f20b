import type { RunnersView } from '@kindred-baton/contracts/runners/runner';
import Plus from 'lucide-react/icons/plus';
import { useState } from 'react';
import { useRead } from '../../client/use-read.ts';
import { countOf } from '../../ui/format.ts';
import { EmptyView } from '../../ui/empty-view.tsx';
import { PageTitle } from '../../ui/page-title.tsx';
import { CyclesTabs } from '../cycles/cycles-tabs.tsx';
import type { PageProps } from '../frame/app-frame.tsx';
import { AppFrame } from '../frame/app-frame.tsx';
import { useAddress } from '../frame/address-context.tsx';
import { useProgramme } from '../frame/programme-context.tsx';
import { AddRunner } from './add-runner.tsx';
import type { PoolView } from './describe-queue.ts';
import { endWith, findEnd, formatClock, isGuessed } from './describe-queue.ts';
import { NeededSessions } from './needed-sessions.tsx';
import { PoolCard } from './pool-card.tsx';
import { PoolDialog } from './pool-dialog.tsx';
import { QueueAhead } from './queue-ahead.tsx';
import { QueueList } from './queue-list.tsx';
import { RunnerTable } from './runner-table.tsx';
import { ToLookAt } from './to-look-at.tsx';

export function RunnersApp({ content, ...frame }: PageProps<RunnersView>) {
  return (
    <AppFrame {...frame} area="cycles">
      <Runners initial={content} />
    </AppFrame>
  );
}

/** The machines that do turns: what each does now, what is ahead of them and until when, and what they leave to people. */
function Runners({ initial }: { readonly initial: RunnersView }) {
  const { can } = useProgramme();
  const address = useAddress();
  const { data = initial } = useRead('getRunners', {}, { initialData: initial, refetchInterval: EVERY_MS });
  const [isAdding, setIsAdding] = useState<'runner' | 'pool' | null>(null);
  const pools = data.pools.filter(({ name }) => address.get('pool') === null || name === address.get('pool'));
  const runners = data.runners.filter(({ pool }) => pools.some(({ id }) => id === pool));
  const canRun = can('run cycles');
  return (
    <>
      <CyclesTabs place="runners" />
      <PageTitle title={<Headline pools={pools} now={data.now} />}>
        {data.pools.length > 1 && <PoolChoice pools={data.pools} />}
        {canRun && (
          <button type="button" className="button" onClick={() => setIsAdding('pool')}>
            <Plus size={17} aria-hidden /> Add a pool
          </button>
        )}
        {canRun && data.pools.length > 0 && (
          <button type="button" className="button button-primary" onClick={() => setIsAdding('runner')}>
            <Plus size={17} aria-hidden /> Add a runner
          </button>
        )}
      </PageTitle>
      {data.pools.length === 0 ? (
        <div className="card">
          <EmptyView title="No pool of runners yet">
            A pool is whoever turns are given to when machines do them. Add one, then a runner on any machine with Chromium: it asks for
            turns by itself.
          </EmptyView>
        </div>
      ) : (
        <div className="grid grid-cols-[minmax(0,1fr)] gap-4 xl:grid-cols-[minmax(0,1fr)_340px]">
          <div className="grid min-w-0 grid-cols-[minmax(0,1fr)] content-start gap-4">
            <RunnerTable runners={runners} pools={data.pools} />
            {pools.map((pool) => (
              <QueueAhead key={pool.id} pool={pool} now={data.now} />
            ))}
            {address.get('list') === 'queue' && <QueueList pools={pools} now={data.now} />}
          </div>
          <div className="grid min-w-0 grid-cols-[minmax(0,1fr)] content-start gap-4">
            <ToLookAt turns={data.toLookAt} />
            {pools.map((pool) => (
              <NeededSessions key={pool.id} pool={pool} now={data.now} />
            ))}
            {pools.map((pool) => (
              <PoolCard key={pool.id} pool={pool} runners={data.runners.filter((runner) => runner.pool === pool.id).length} />
            ))}
          </div>
        </div>
      )}
      {isAdding === 'pool' && <PoolDialog pool={null} onClose={() => setIsAdding(null)} />}
      {isAdding === 'runner' && <AddRunner pools={data.pools} onClose={() => setIsAdding(null)} />}
    </>
  );
}

/** What moves by itself is asked for again, besides what is told. */
const EVERY_MS = 15_000;

/** The answer in one line: how many wait, and until when. */
function Headline({ pools, now }: { readonly pools: readonly PoolView[]; readonly now: string }) {
  const { timeZone } = useProgramme();
  const address = useAddress();
  const total = pools.reduce((sum, pool) => sum + pool.total, 0);
  const withPeople = pools.reduce((sum, pool) => sum + pool.withPeople, 0);
  const sessions = pools.reduce((sum, pool) => sum + pool.sessions, 0);
  if (pools.length === 0) return 'Runners';
  if (total === 0) return sessions === 0 ? 'No turn waits, and no runner is heard of' : 'No turn waits for a runner';
  const end = findEnd(pools);
  const [only] = pools;
  const next = pools.length === 1 && only ? endWith(only, only.sessions + 1) : null;
  return (
    <span className="font-normal">
      <button type="button" className="font-bold underline" onClick={() => address.set({ list: 'queue' })}>
        {countOf(total, 'turn')}
      </button>{' '}
      {total === 1 ? 'waits' : 'wait'}
      {sessions === 0 ? (
        <span className="font-semibold text-failed">; no runner is at work</span>
      ) : end === null ? (
        ' for people first'
      ) : (
        <>
          ; {withPeople > 0 ? `${(total - withPeople).toLocaleString('en')} of them` : 'all'} done by {isGuessed(pools) && 'about '}
          <b>{formatClock(end, now, timeZone)}</b>
          <span className="text-[70%] text-soft">
            {' '}
            with {countOf(sessions, 'session')}
            {next !== null && next < end && `; with ${sessions + 1} by ${formatClock(next, now, timeZone)}`}
            {withPeople > 0 && `; ${withPeople.toLocaleString('en')} held, or behind people`}
          </span>
        </>
      )}
    </span>
  );
}

function PoolChoice({ pools }: { readonly pools: readonly PoolView[] }) {
  const address = useAddress();
  return (
    <label className="flex items-center gap-2 text-[13px] text-soft">
      Pool
      <select className="field" value={address.get('pool') ?? ''} onChange={(event) => address.set({ pool: event.target.value || null })}>
        <option value="">All</option>
        {pools.map(({ id, name }) => (
          <option key={id} value={name}>
            {name}
          </option>
        ))}
      </select>
    </label>
  );
}
