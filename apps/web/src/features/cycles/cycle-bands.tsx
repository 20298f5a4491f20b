import type { CycleList } from '@kindred-baton/contracts/cycles/cycle';
import { isLive } from '@kindred-baton/core/cycles/cycle';
import type { TurnStatus } from '@kindred-baton/core/outcomes';
import { isNotRun, TURN_STATUSES } from '@kindred-baton/core/outcomes';
import { sumCounts } from '@kindred-baton/core/progress/tally';
import { useCallback, useEffect, useState } from 'react';
import { countOf, formatDay, formatSpan, getToday } from '../../ui/format.ts';
import { useAddress } from '../frame/address-context.tsx';
import { useProgramme } from '../frame/programme-context.tsx';
import { toTurnsPath } from '../progress/to-turns-path.ts';
import { toPlanDay } from './lanes/describe-fit.ts';
import { useCyclePlan } from './lanes/use-cycle-plan.ts';
import { usePlan } from './lanes/use-plan.ts';
import type { CycleCalendar } from './lay-out-calendar.ts';
import { layOutCalendar } from './lay-out-calendar.ts';

type Cycle = CycleList['cycles'][number];

const GRID = 'grid items-center gap-x-5 gap-y-1 md:grid-cols-[minmax(200px,300px)_minmax(0,1fr)_200px]';

/** Each cycle as a band of one calendar: when it is, where today is, and when what is left would likely be done. */
export function CycleBands({ cycles }: { readonly cycles: readonly Cycle[] }) {
  const { timeZone, nowMs } = useProgramme();
  const [likely, setLikely] = useState<ReadonlyMap<string, string>>(new Map());
  const tell = useCallback((code: string, day: string) => setLikely((all) => new Map(all).set(code, day)), []);
  const calendar = layOutCalendar(
    cycles.map(({ code, startsOn, endsOn }) => {
      const end = likely.get(code) ?? endsOn;
      return { first: startsOn, last: end > endsOn ? end : endsOn };
    }),
    getToday(timeZone, nowMs),
  );
  return (
    <section className="card overflow-hidden" aria-label="Cycles on a calendar">
      <div className={`${GRID} border-b border-line px-5 py-2 text-[13px] text-soft`}>
        <span />
        <div className="relative hidden h-5 md:block">
          {calendar.months.map(({ label, left }) => (
            <span key={left} className="absolute border-l border-line pl-1 whitespace-nowrap" style={{ left: `${100 * left}%` }}>
              {label}
            </span>
          ))}
          <b className="absolute -translate-x-1/2 bg-sheet px-1 text-ink" style={{ left: percent(calendar.today) }}>
            today
          </b>
        </div>
        <span />
      </div>
      <ul>
        {cycles.map((cycle) => (
          <CycleBand key={cycle.id} cycle={cycle} calendar={calendar} likely={likely.get(cycle.code) ?? null} onLikely={tell} />
        ))}
      </ul>
    </section>
  );
}

interface CycleBandProps {
  readonly cycle: Cycle;
  readonly calendar: CycleCalendar;
  readonly likely: string | null;
  readonly onLikely: (code: string, day: string) => void;
}

function CycleBand({ cycle, calendar, likely, onLikely }: CycleBandProps) {
  const { base } = useProgramme();
  const { withScope } = useAddress();
  const toTurns = (statuses: readonly TurnStatus[]) =>
    toTurnsPath({ base, cycle: cycle.code, filters: statuses.length > 0 ? { status: statuses.join(',') } : {} });
  const notRun = TURN_STATUSES.reduce((sum, status) => sum + (isNotRun(status) ? cycle.counts[status] : 0), 0);
  const isLate = likely !== null && likely > cycle.endsOn;
  return (
    <li className={`${GRID} border-t border-line-2 px-5 py-3 first:border-t-0`}>
      <div className="min-w-0">
        <h2 className="truncate text-[16px]">
          <a className="hover:underline" href={withScope(`${base}/cycles/${cycle.code}`)}>
            {cycle.name}
          </a>
        </h2>
        <p className="text-[13px] text-soft">
          <span className="font-mono">{cycle.code}</span> · {cycle.purpose} · {cycle.environment}
        </p>
      </div>
      <div>
        <Band cycle={cycle} calendar={calendar} likely={likely} />
        <p className="mt-1 text-[13px] text-soft">
          {formatSpan(cycle.startsOn, cycle.endsOn)} · <b className="text-ink">{cycle.state}</b>
          {likely !== null && (
            <>
              {' · '}
              <b className={isLate ? 'text-failed' : 'text-ink'}>likely done {formatDay(likely)}</b>
            </>
          )}
        </p>
      </div>
      <p className="text-[13px] text-soft">
        <a className="text-ink hover:underline" href={notRun === 0 ? toTurns([]) : toTurns(TURN_STATUSES.filter(isNotRun))}>
          <b className="text-[16px]">{notRun === 0 ? 'All' : notRun}</b> {notRun === 0 ? 'run' : 'not run yet'}
        </a>
        {cycle.counts.failed > 0 && (
          <>
            ,{' '}
            <a className="hover:underline" href={toTurns(['failed'])}>
              {cycle.counts.failed} failed
            </a>
          </>
        )}
        <span className="block">
          of {countOf(sumCounts(cycle.counts), 'turn')} in {countOf(cycle.runs, 'run')}
        </span>
      </p>
      {isLive(cycle.state) && <LikelyEnd code={cycle.code} onLikely={onLikely} />}
    </li>
  );
}

const percent = (share: number) => `${100 * share}%`;

function Band({ cycle, calendar, likely }: Omit<CycleBandProps, 'onLikely'>) {
  const band = calendar.bandOf(cycle.startsOn, cycle.endsOn);
  const beyond = likely !== null && likely > cycle.endsOn ? calendar.bandOf(cycle.endsOn, likely) : null;
  const end = likely === null ? null : calendar.bandOf(likely, likely);
  return (
    <div className="relative h-[18px] rounded bg-band" aria-hidden>
      <div
        className={`absolute inset-y-0 rounded ${isLive(cycle.state) ? 'bg-deep' : cycle.state === 'planning' ? 'border-2 border-deep bg-sheet' : 'bg-line'}`}
        style={{ left: percent(band.left), width: percent(band.width) }}
      />
      {beyond && <div className="absolute inset-y-[5px] bg-failed" style={{ left: percent(beyond.left), width: percent(beyond.width) }} />}
      {end && <div className="bg-baton-wire absolute -inset-y-[3px] w-[3px]" style={{ left: percent(end.left + end.width) }} />}
      <div className="absolute -inset-y-1 w-px bg-ink" style={{ left: percent(calendar.today) }} />
    </div>
  );
}

/** When the plan of what is left ends, computed apart from the page. */
function LikelyEnd({ code, onLikely }: Pick<CycleBandProps, 'onLikely'> & { readonly code: string }) {
  const { view } = useCyclePlan(code);
  const { plan } = usePlan(view, NOTHING_TRIED, false);
  const day = view && plan && plan.jobs.length > plan.stuck.length ? toPlanDay(view, plan.finish) : null;
  useEffect(() => {
    if (day !== null) onLikely(code, day);
  }, [code, day, onLikely]);
  return plan && plan.stuck.length > 0 ? (
    <p className="text-[13px] text-soft md:col-span-3">{countOf(plan.stuck.length, 'turn')} cannot be planned: nobody can do them.</p>
  ) : null;
}

const NOTHING_TRIED: readonly never[] = [];
