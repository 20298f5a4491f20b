import type { HoldView, ProgressView } from '@kindred-baton/contracts/progress/progress';
import { useState } from 'react';
import { countOf, formatLasting, formatMinutes } from '../../ui/format.ts';
import { SidePanel } from '../../ui/side-panel.tsx';
import { useAddress } from '../frame/address-context.tsx';
import { useProgramme } from '../frame/programme-context.tsx';
import { toTurnsPath } from './to-turns-path.ts';

const HOLDS_SHOWN = 7;

const LASTING: Readonly<Record<HoldView['kind'], string>> = { defect: 'open', failure: 'failed', block: 'blocked', idle: 'ready' };

/** Where the baton is held, ranked by the turns that wait. */
export function HoldList({ view }: { readonly view: ProgressView }) {
  const [isWhole, setIsWhole] = useState(false);
  const held = view.holds.filter((hold) => hold.waiting > 0);
  const rest = view.holds.length - held.length;
  return (
    <SidePanel label="Where the baton is held">
      <div className="px-4 pt-3 pb-1">
        <h2 className="text-[15px]">Where the baton is held</h2>
        <p className="text-[13px] text-soft">
          {held.length === 0
            ? 'Nowhere. Every turn that is not done can go on.'
            : `${countOf(view.waitingBehindHolds, 'turn')} waiting behind ${countOf(held.length, 'hold')}`}
        </p>
      </div>
      <ol>
        {held.slice(0, isWhole ? undefined : HOLDS_SHOWN).map((hold) => (
          <HoldLine key={`${hold.kind} ${hold.key}`} hold={hold} cycle={view.cycle?.code ?? ''} />
        ))}
      </ol>
      {held.length > HOLDS_SHOWN && !isWhole && (
        <button type="button" className="button button-quiet button-small mx-3 my-1.5" onClick={() => setIsWhole(true)}>
          Show all {held.length} holds
        </button>
      )}
      {rest > 0 && (
        <p className="border-t border-line-2 px-4 py-2.5 text-[13px] text-soft">
          {countOf(rest, 'more failure')} with nothing waiting behind.
        </p>
      )}
    </SidePanel>
  );
}

/** Where what holds is looked at. */
function toHolder({ opens }: HoldView, base: string): string | null {
  if (opens === null) return null;
  return opens.kind === 'defect' ? `${base}/defects/${opens.code}` : `${base}/turns/${opens.id}`;
}

/** The number opens those that wait; the name opens what holds them. */
function HoldLine({ hold, cycle }: { readonly hold: HoldView; readonly cycle: string }) {
  const { base, nowMs } = useProgramme();
  const address = useAddress();
  const behind = toTurnsPath({ base, cycle, scope: address.get('scope'), filters: { hold: `${hold.kind}:${hold.key}` } });
  return (
    <li className="border-t border-line-2 first:border-t-0">
      <div className="grid grid-cols-[54px_1fr] gap-3 px-4 py-2.5">
        <a className="group text-right" href={behind}>
          <strong className="block text-[20px] leading-6 group-hover:underline">{hold.waiting}</strong>
          <span className="text-[12px] text-soft">waiting</span>
          <span className="sr-only"> behind {hold.title}</span>
        </a>
        <span className="min-w-0">
          <a className="block font-bold hover:underline" href={toHolder(hold, base) ?? behind}>
            {hold.title}
          </a>
          <span className="block text-[13px] text-soft" suppressHydrationWarning>
            {hold.detail}
            {hold.since !== null && ` · ${LASTING[hold.kind]} ${formatLasting(hold.since, nowMs)}`} · {countOf(hold.teams, 'team')} ·{' '}
            {formatMinutes(hold.minutes)} of work
          </span>
        </span>
      </div>
    </li>
  );
}
