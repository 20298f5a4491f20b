import type { Since } from '@kindred-baton/contracts/progress/since';
import { describeSince } from '@kindred-baton/core/progress/describe-since';
import { getLastWorkingDay } from '@kindred-baton/core/time/since-when';
import { useEffect, useState, useSyncExternalStore } from 'react';
import { useRead } from '../../../client/use-read.ts';
import { formatMoment, formatWhole } from '../../../ui/format.ts';
import { useCopy } from '../../../ui/use-copy.ts';
import { useProgramme } from '../../frame/programme-context.tsx';
import { getStartOfDay, keepVisit, readLastVisit } from './choose-since.ts';

interface SincePanelProps {
  readonly cycle: { readonly code: string; readonly name: string };
  readonly scope: string | null;
  /** How it will end, as the first line says. */
  readonly end: string;
  readonly toTurns: (filters: Record<string, string>) => string;
}

/** What changed since the last working day, since this browser was here, or since a day; as a paragraph to take away. */
export function SincePanel({ cycle, scope, end, toTurns }: SincePanelProps) {
  const { base, timeZone, nowMs } = useProgramme();
  const copyText = useCopy();
  const [lastDay] = useState(() => getLastWorkingDay(nowMs, timeZone));
  const lastVisit = useSyncExternalStore(
    neverChanges,
    () => readLastVisit(base),
    () => null,
  );
  const [since, setSince] = useState(lastDay);
  useEffect(() => {
    const leave = () => keepVisit(base, Date.now());
    addEventListener('pagehide', leave);
    return () => removeEventListener('pagehide', leave);
  }, [base]);
  const { data, error } = useRead('getSince', { input: { cycle: cycle.code, since, ...(scope === null ? {} : { scope }) } });
  return (
    <section className="card px-4 py-3.5" aria-label="What changed">
      <h2 className="text-[15px] font-semibold" suppressHydrationWarning>
        Since {formatMoment(since, timeZone, nowMs)}
      </h2>
      <p className="mt-1.5 flex flex-wrap items-center gap-1.5">
        <Pick name="Last working day" isChosen={since === lastDay} onPick={() => setSince(lastDay)} />
        {lastVisit !== null && <Pick name="I was last here" isChosen={since === lastVisit} onPick={() => setSince(lastVisit)} />}
        <input
          type="date"
          aria-label="Since a day"
          className="field min-h-[24px] w-auto text-[13px]"
          onChange={({ target }) => target.value !== '' && setSince(getStartOfDay(target.value, timeZone))}
        />
      </p>
      {data ? (
        <SinceFigures data={data} toTurns={toTurns} />
      ) : (
        <p className="mt-2 text-[13px] text-soft">{error ? error.message : 'Looking at what changed …'}</p>
      )}
      {data && (
        <button
          type="button"
          className="button button-small mt-2"
          onClick={() =>
            void copyText(
              describeSince(data, { of: cycle.name, since: formatWhole(data.since, timeZone), end }),
              'Copied, to be put into a mail.',
            )
          }
        >
          Copy as text
        </button>
      )}
    </section>
  );
}

/** What is kept when somebody leaves is for the next time. */
const neverChanges = () => () => undefined;

const Pick = ({ name, isChosen, onPick }: { readonly name: string; readonly isChosen: boolean; readonly onPick: () => void }) => (
  <button type="button" className="button button-small aria-pressed:bg-band" aria-pressed={isChosen} onClick={onPick}>
    {name}
  </button>
);

export function SinceFigures({ data, toTurns }: { readonly data: Since; readonly toTurns: SincePanelProps['toTurns'] }) {
  const ended = (status: string) => toTurns({ status, doneSince: data.since });
  return (
    <dl className="mt-2 grid grid-cols-[1fr_auto] gap-y-1 text-[14px]">
      <Figure name="Passed" of={data.passed} href={ended('passed')} />
      <Figure name="Failed or blocked" of={data.failed + data.blocked} href={ended('failed,blocked')} />
      <Figure name="Came to hand" of={data.ready} href={toTurns({ readySince: data.since })} />
      <Defects name="Defects found" defects={data.found} />
      <Defects name="Defects fixed" defects={data.fixed} />
    </dl>
  );
}

const Figure = ({ name, of, href }: { readonly name: string; readonly of: number; readonly href: string }) => (
  <>
    <dt>{name}</dt>
    <dd className="text-right font-semibold">
      {of === 0 ? (
        0
      ) : (
        <a className="inline-block min-h-[24px] underline-offset-2 hover:underline" href={href}>
          {of.toLocaleString('en')}
        </a>
      )}
    </dd>
  </>
);

/** All of them can be opened from here. */
function Defects({ name, defects }: { readonly name: string; readonly defects: Since['found'] }) {
  const { base } = useProgramme();
  return (
    <>
      <dt>{name}</dt>
      <dd className="text-right font-semibold">{defects.length}</dd>
      {defects.length > 0 && (
        <dd className="col-span-2 max-h-[120px] overflow-y-auto text-[13px]">
          {defects.map(({ code, title }) => (
            <a key={code} className="block min-h-[24px] truncate hover:underline" href={`${base}/defects/${code}`} title={title}>
              <span className="font-mono text-soft">{code}</span> {title}
            </a>
          ))}
        </dd>
      )}
    </>
  );
}
