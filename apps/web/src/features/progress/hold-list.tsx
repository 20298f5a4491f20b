import type { HoldsView, HoldView } from '@kindred-baton/contracts/progress/holds';
import { NONE } from '@kindred-baton/core/progress/facet';
import { useState } from 'react';
import { countOf, formatLasting, formatMinutes } from '../../ui/format.ts';
import { SidePanel } from '../../ui/side-panel.tsx';
import { useAddress } from '../frame/address-context.tsx';
import { useProgramme } from '../frame/programme-context.tsx';
import { toTurnsPath } from './to-turns-path.ts';

const HOLDS_SHOWN = 7;

const LASTING: Readonly<Record<HoldView['kind'], string>> = { defect: 'open', failure: 'failed', block: 'blocked', idle: 'ready' };

export interface HoldListProps {
  readonly view: HoldsView;
  /** Codes of the cycles that are looked at. */
  readonly cycle: string;
  readonly isNarrowed: boolean;
}

/** Where the baton is held, ranked by the turns that wait: the longest by their causes, the rest by team. */
export function HoldList({ view, cycle, isNarrowed }: HoldListProps) {
  const [isWhole, setIsWhole] = useState(false);
  const address = useAddress();
  const team = address.get('holdsOf');
  const { holds, held, quiet } = view;
  return (
    <SidePanel label="Where the baton is held">
      <div className="px-4 pt-3 pb-1">
        <h2 className="text-[15px]">Where the baton is held{team !== null && `, ${team === NONE ? 'no team' : team}`}</h2>
        <p className="text-[13px] text-soft">{describeHolds(view)}</p>
        {isNarrowed && <OverAll />}
        {team !== null && (
          <button type="button" className="button button-quiet button-small -ml-2" onClick={() => address.set({ holdsOf: null })}>
            Of all teams
          </button>
        )}
      </div>
      <HoldLines holds={holds.slice(0, isWhole ? undefined : HOLDS_SHOWN)} cycle={cycle} />
      {holds.length > HOLDS_SHOWN && !isWhole && (
        <button type="button" className="button button-quiet button-small mx-3 my-1.5" onClick={() => setIsWhole(true)}>
          Show {holds.length === held ? 'all' : 'the longest'} {countOf(holds.length, 'hold')}
        </button>
      )}
      <MoreHolds view={view} />
      {quiet > 0 && (
        <p className="border-t border-line-2 px-4 py-2.5 text-[13px] text-soft">
          {countOf(quiet, 'more failure')} with nothing waiting behind.
        </p>
      )}
    </SidePanel>
  );
}

/** Holds are of the scope: what narrows the table otherwise does not narrow them. */
export const OverAll = () => <p className="text-[13px] text-soft">Over all of the scope, whatever else narrows the table.</p>;

export const describeHolds = ({ held, waitingBehindHolds }: HoldsView): string =>
  held === 0
    ? 'Nowhere. Every turn that is not done can go on.'
    : `${countOf(waitingBehindHolds, 'turn')} waiting behind ${countOf(held, 'hold')}`;

export const HoldLines = ({ holds, cycle }: { readonly holds: readonly HoldView[]; readonly cycle: string }) => (
  <ol>
    {holds.map((hold) => (
      <HoldLine key={`${hold.kind} ${hold.key}`} hold={hold} cycle={cycle} />
    ))}
  </ol>
);

/** What is not told by its causes: by team, each of which opens its own. */
function MoreHolds({ view }: Pick<HoldListProps, 'view'>) {
  const address = useAddress();
  const { moreHolds } = view;
  if (moreHolds.length === 0) return null;
  const isOfTeam = address.get('holdsOf') !== null;
  return (
    <div className="border-t border-line-2 px-4 py-2.5 text-[13px]">
      <h3 className="mb-1 font-bold">{isOfTeam ? 'And more' : 'And more, by team'}</h3>
      <ul>
        {moreHolds.map(({ key, team, holds, waiting }) => (
          <li key={key} className="flex justify-between gap-3 py-0.5">
            {isOfTeam ? (
              <span>{team}</span>
            ) : (
              <button type="button" className="text-left font-semibold hover:underline" onClick={() => address.set({ holdsOf: key })}>
                {team}
              </button>
            )}
            <span className="text-soft">
              {countOf(holds, 'hold')}, {waiting.toLocaleString('en')} waiting
            </span>
          </li>
        ))}
      </ul>
    </div>
  );
}

const describeHold = ({ kind, detail, since, teams, minutes }: HoldView, nowMs: number): string =>
  [
    ...(detail === '' ? [] : [detail]),
    ...(since === null ? [] : [`${LASTING[kind]} ${formatLasting(since, nowMs)}`]),
    countOf(teams, 'team'),
    `${formatMinutes(minutes)} of work`,
  ].join(' · ');

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
            {describeHold(hold, nowMs)}
          </span>
        </span>
      </div>
    </li>
  );
}
