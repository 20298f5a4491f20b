import type { RunnersView } from '@kindred-baton/contracts/runners/runner';
import type { RunnerOrder } from '@kindred-baton/core/runners/runner';
import Moon from 'lucide-react/icons/moon';
import { useState } from 'react';
import { useChanges } from '../../client/use-changes.ts';
import { BatonMark } from '../../ui/baton-mark.tsx';
import { FramedTable } from '../../ui/framed-table.tsx';
import { MenuButton } from '../../ui/menus/menu-button.tsx';
import { Moment } from '../../ui/moment.tsx';
import { useProgramme } from '../frame/programme-context.tsx';
import { RetireDialog } from './retire-dialog.tsx';
import { StopRunner } from './stop-runner.tsx';

type RunnerView = RunnersView['runners'][number];
type Doing = RunnerView['now'][number];

interface RunnerTableProps {
  readonly runners: readonly RunnerView[];
  readonly pools: RunnersView['pools'];
}

/** A row a machine, with what each of its sessions does now. */
export function RunnerTable({ runners, pools }: RunnerTableProps) {
  const nameOf = new Map(pools.map(({ id, name }) => [id, name]));
  return (
    <section className="card" aria-label="Runners">
      <FramedTable heads={['Runner', 'Pool', 'Does now', 'Last heard of']} isBare>
        {runners.map((runner) => (
          <RunnerRow key={runner.id} runner={runner} pool={nameOf.get(runner.pool) ?? ''} />
        ))}
        {runners.length === 0 && (
          <tr>
            <td colSpan={4} className="py-4! text-soft">
              No runner yet. Add one: it is shown how to start it on its machine.
            </td>
          </tr>
        )}
      </FramedTable>
    </section>
  );
}

function RunnerRow({ runner, pool }: { readonly runner: RunnerView; readonly pool: string }) {
  return (
    <tr className="align-top">
      <td className="align-top! whitespace-nowrap">
        <b className="block">{runner.name}</b>
        <span className="font-mono text-[13px] text-soft">{runner.machine}</span>
        <OrderLabel runner={runner} />
      </td>
      <td className="align-top!">{pool}</td>
      <td className="w-full align-top!">
        {runner.problem !== '' && <p className="mb-1 font-semibold text-failed">{runner.problem}</p>}
        {runner.now.map((doing) => (
          <DoingNow key={doing.attempt} doing={doing} />
        ))}
        {runner.now.length === 0 && <NotDoing runner={runner} />}
      </td>
      <td className="text-right align-top! whitespace-nowrap">
        <span className="mb-1 block text-[13px] text-soft">{runner.heardAt === null ? 'never' : <Moment at={runner.heardAt} />}</span>
        <RunnerMenu runner={runner} />
      </td>
    </tr>
  );
}

const ORDER_WORDS: Readonly<Record<RunnerOrder, string>> = {
  work: '',
  pause: 'paused between steps',
  drain: 'takes nothing more',
  stop: 'stopped',
};

function OrderLabel({ runner: { order, state } }: { readonly runner: RunnerView }) {
  const words = state === 'retired' ? 'retired' : ORDER_WORDS[order];
  return words === '' ? null : <span className="block text-[13px] font-semibold text-blocked">{words}</span>;
}

function NotDoing({ runner: { state, sessions } }: { readonly runner: RunnerView }) {
  const words = {
    idle: `Free: ${sessions} ${sessions === 1 ? 'session' : 'sessions'}.`,
    'at work': '',
    'not heard of': 'Asleep, or switched off. What it did went back into the queue.',
    'never heard of': 'Not started yet.',
    retired: 'Its token was withdrawn.',
  }[state];
  return (
    <p className="flex items-center gap-2 py-1 text-soft">
      {state !== 'idle' && <Moon size={16} aria-hidden />} {words}
    </p>
  );
}

function DoingNow({ doing }: { readonly doing: Doing }) {
  const { api, base, can } = useProgramme();
  const { test, title, run, step, steps, outcomes, picture, turn, attempt } = doing;
  return (
    <div className="flex items-start gap-4 py-1">
      <a
        href={`${base}/turns/${turn}/window`}
        title="Watch it"
        className="hidden h-[64px] w-[104px] flex-none overflow-hidden rounded-control border border-line bg-band sm:block"
      >
        {picture !== null && (
          <img
            src={`${api}/evidence/${picture}`}
            alt={`${title} as the runner saw it last`}
            className="h-full w-full object-cover object-top"
          />
        )}
      </a>
      <div className="min-w-0 flex-1">
        <a href={`${base}/turns/${turn}`} className="font-bold hover:underline">
          {title}
        </a>{' '}
        {test !== null && <span className="font-mono text-[13px] text-soft">{test}</span>}
        <p className="truncate text-[13px] text-soft">{run}</p>
        <p className="mt-1 flex flex-wrap items-center gap-1">
          {outcomes.map((outcome, index) => (
            <BatonMark key={index} status={outcome ?? (index === step ? 'under way' : 'waiting')} isDecoration />
          ))}
          <a href={`${base}/turns/${turn}/window`} className="button button-small ml-2">
            Watch
          </a>
          <span className="ml-1 text-[13px]">
            step <b>{Math.min(step + 1, steps)}</b> of {steps}
          </span>
        </p>
      </div>
      {can('run cycles') && <StopRunner attempt={attempt} turn={turn} title={title} />}
    </div>
  );
}

const ORDERS: readonly { readonly key: RunnerOrder; readonly name: string }[] = [
  { key: 'work', name: 'Work' },
  { key: 'pause', name: 'Pause: wait before the next step' },
  { key: 'drain', name: 'Finish what it does, then take nothing' },
  { key: 'stop', name: 'Stop now: its turns go back into the queue' },
];

function RunnerMenu({ runner }: { readonly runner: RunnerView }) {
  const { can } = useProgramme();
  const { act } = useChanges();
  const [isRetiring, setIsRetiring] = useState(false);
  if (!can('run cycles') || runner.state === 'retired') return null;
  const order = (key: string) =>
    key === 'retire'
      ? setIsRetiring(true)
      : void act('orderRunner', { params: { runner: runner.id }, input: { order: key as RunnerOrder } }, `${runner.name} is told.`);
  return (
    <>
      <MenuButton
        label={`Tell ${runner.name}`}
        isSmall
        choices={[...ORDERS.filter(({ key }) => key !== runner.order), { key: 'retire', name: 'Retire: its token works no more' }]}
        onChoose={order}
      />
      {isRetiring && <RetireDialog runner={runner} onClose={() => setIsRetiring(false)} />}
    </>
  );
}
