import type { PoolView } from './describe-queue.ts';
import { describeKnown, endWith, formatClock } from './describe-queue.ts';
import { useProgramme } from '../frame/programme-context.tsx';

interface QueueAheadProps {
  readonly pool: PoolView;
  readonly now: string;
}

const SHOWN_LANES = 8;
const FILLS = { 'under way': 'fill-under-way', ready: 'fill-ready', waiting: 'fill-waiting', 'with people': 'fill-held' } as const;

/** The queue as the sessions will play it: a lane a session, a piece a turn, when each begins and ends. */
export function QueueAhead({ pool, now }: QueueAheadProps) {
  const { base, timeZone } = useProgramme();
  const played = pool.queue.filter(({ from, to }) => from !== null && to !== null);
  if (played.length === 0) return null;
  const start = Date.parse(now);
  const other = endWith(pool, pool.sessions + 1);
  const fewer = pool.sessions > 1 ? endWith(pool, pool.sessions - 1) : null;
  const last = Math.max(...[...played.map(({ to }) => to!), fewer ?? now].map((at) => Date.parse(at)), start + 60_000);
  const share = (at: string) => (100 * (Date.parse(at) - start)) / (last - start);
  const lanes = Array.from({ length: Math.min(SHOWN_LANES, Math.max(1, pool.sessions)) }, (_, index) => index);
  const end = endWith(pool, Math.max(1, pool.sessions));
  const marks = [
    { at: other, words: `with ${pool.sessions + 1} sessions`, isNow: false },
    { at: end, words: pool.sessions === 0 ? 'if one session were at work' : `with ${pool.sessions}, as now`, isNow: true },
    { at: fewer, words: `with ${pool.sessions - 1}`, isNow: false },
  ].flatMap(({ at, ...mark }) => (at === null ? [] : [{ at, ...mark }]));
  return (
    <section className="card px-4 py-3" aria-label={`The queue ahead of ${pool.name}`}>
      <div className="mb-3 flex flex-wrap items-baseline justify-between gap-2">
        <h2>
          The queue ahead <span className="ml-1 text-[13px] font-normal text-soft">{pool.name}</span>
        </h2>
        <Legend />
      </div>
      {!pool.isOpen && <p className="mb-2 text-[13px] text-soft">The pool is closed now; what follows begins when it opens.</p>}
      <div className="relative pb-10">
        {lanes.map((lane) => (
          <div key={lane} className="flex items-center gap-2 py-1">
            <span className="w-[74px] flex-none text-[13px] text-soft">session {lane + 1}</span>
            <span className="relative h-[18px] min-w-0 flex-1">
              {played
                .filter(({ session }) => session === lane)
                .map(({ turn, title, run, kind, from, to }) => (
                  <a
                    key={turn}
                    href={`${base}/turns/${turn}`}
                    title={`${title}, ${run}: ${formatClock(from!, now, timeZone)} to ${formatClock(to!, now, timeZone)}`}
                    aria-label={`${title}, until ${formatClock(to!, now, timeZone)}`}
                    className={`baton-mark absolute top-0 h-[16px]! rounded-[6px]! ${FILLS[kind]}`}
                    style={{ left: `${share(from!)}%`, width: `max(4px, calc(${share(to!) - share(from!)}% - 2px))` }}
                  />
                ))}
            </span>
          </div>
        ))}
        {pool.sessions > SHOWN_LANES && <p className="text-[13px] text-soft">and {pool.sessions - SHOWN_LANES} more sessions</p>}
        <div className="pointer-events-none absolute inset-y-0 right-0 left-[82px]">
          {marks.map(({ at, words, isNow }, index) => (
            <span
              key={words}
              className={`absolute top-0 border-l-2 ${isNow ? 'border-ink' : 'border-dashed border-soft'}`}
              style={{ left: `${share(at)}%`, bottom: `${index % 2 === 0 ? 18 : 0}px` }}
            >
              <span
                className={`absolute bottom-0 text-[12px] whitespace-nowrap ${share(at) > 55 ? 'right-1' : 'left-1'} ${isNow ? 'font-bold text-ink' : 'hidden text-soft sm:block'}`}
              >
                {formatClock(at, now, timeZone)} {words}
              </span>
            </span>
          ))}
        </div>
      </div>
      <p className="text-[13px] text-soft">
        {describeKnown(pool)}
        {pool.total > pool.queue.length && ` The first ${pool.queue.length} are drawn.`}
      </p>
    </section>
  );
}

function Legend() {
  return (
    <span className="flex flex-wrap gap-3 text-[13px] text-soft">
      {(['under way', 'ready', 'waiting'] as const).map((kind) => (
        <span key={kind} className="inline-flex items-center gap-1.5">
          <span className={`baton-mark ${FILLS[kind]}`} aria-hidden /> {kind === 'waiting' ? 'waiting for a value' : kind}
        </span>
      ))}
    </span>
  );
}
