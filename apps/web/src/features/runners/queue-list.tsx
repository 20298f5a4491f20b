import { BatonMark } from '../../ui/baton-mark.tsx';
import { FramedTable } from '../../ui/framed-table.tsx';
import { useProgramme } from '../frame/programme-context.tsx';
import type { PoolView } from './describe-queue.ts';
import { formatClock } from './describe-queue.ts';

/** What the number of turns counts: each turn that waits, in the order in which they are handed out. */
export function QueueList({ pools, now }: { readonly pools: readonly PoolView[]; readonly now: string }) {
  const { base, timeZone } = useProgramme();
  return (
    <section className="card" aria-label="Turns that wait for runners" id="queue">
      <FramedTable heads={['Turn', 'Run', 'Cycle', 'Pool', 'From', 'To']} isBare>
        {pools.flatMap((pool) =>
          pool.queue.map(({ turn, title, run, cycle, status, kind, from, to }) => (
            <tr key={turn}>
              <td>
                <span className="flex items-center gap-2">
                  <BatonMark status={kind === 'under way' ? 'under way' : status} />
                  <a className="hover:underline" href={`${base}/turns/${turn}`}>
                    {title}
                  </a>
                </span>
              </td>
              <td className="text-[13px] text-soft">{run}</td>
              <td className="font-mono text-[13px]">{cycle}</td>
              <td className="text-[13px]">{pool.name}</td>
              <td className="text-[13px] whitespace-nowrap">{from === null ? 'not before others' : formatClock(from, now, timeZone)}</td>
              <td className="text-[13px] whitespace-nowrap">{to === null ? '' : formatClock(to, now, timeZone)}</td>
            </tr>
          )),
        )}
      </FramedTable>
    </section>
  );
}
