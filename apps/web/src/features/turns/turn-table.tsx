import type { TurnCard } from '@kindred-baton/contracts/turns/turn';
import { BatonChip } from '../../ui/baton-chip.tsx';
import { StatusLabel } from '../../ui/baton-mark.tsx';
import { formatDay } from '../../ui/format.ts';
import { useProgramme } from '../frame/programme-context.tsx';

interface TurnTableProps {
  readonly turns: readonly TurnCard[];
  /** Those of several cycles: each says its own. */
  readonly hasCycles: boolean;
}

/** Turns as lines: each opens its turn, its scenario, and says what it waits for. */
export function TurnTable({ turns, hasCycles }: TurnTableProps) {
  return (
    <table className="grid-table">
      <thead>
        <tr>
          <th scope="col">Status</th>
          <th scope="col">Turn</th>
          <th scope="col">Scenario</th>
          <th scope="col">Team</th>
          <th scope="col">With</th>
          <th scope="col">Due</th>
          <th scope="col">What it waits for, or has</th>
        </tr>
      </thead>
      <tbody>
        {turns.map((turn) => (
          <TurnLine key={turn.id} turn={turn} hasCycles={hasCycles} />
        ))}
      </tbody>
    </table>
  );
}

function TurnLine({ turn, hasCycles }: { readonly turn: TurnCard } & Pick<TurnTableProps, 'hasCycles'>) {
  const { base } = useProgramme();
  return (
    <tr className="hover:bg-band">
      <td>
        <StatusLabel status={turn.status} word={turn.isRetest && turn.state === 'ready' ? 'Ready to try again' : undefined} />
      </td>
      <td>
        <a className="font-semibold hover:underline" href={`${base}/turns/${turn.id}`}>
          {turn.title}
        </a>
        <span className="block font-mono text-[12px] text-soft">
          {hasCycles && `${turn.cycle.code} · `}
          {turn.test ?? 'open leg'} · leg {turn.leg} of {turn.legs}
        </span>
      </td>
      <td className="text-[13px]">
        <a className="hover:underline" href={`${base}/scenarios/${turn.scenario.code}`}>
          {turn.scenario.name}
        </a>
        {turn.scenario.rowName !== null && <span className="block text-soft">{turn.scenario.rowName}</span>}
      </td>
      <td className="text-[13px]">{turn.team}</td>
      <td className="text-[13px]">{turn.assignee ?? <span className="text-failed">nobody</span>}</td>
      <td className="text-[13px] whitespace-nowrap">{turn.dueOn === null ? '–' : formatDay(turn.dueOn)}</td>
      <td className="text-[13px]">
        <Waits turn={turn} />
      </td>
    </tr>
  );
}

function Waits({ turn }: { readonly turn: TurnCard }) {
  if (turn.heldBy !== null) return <>held: {turn.heldBy}</>;
  if (turn.holder !== null) return <>{`now with ${turn.holder.person ?? 'nobody yet'}, ${turn.holder.title}`}</>;
  const handed = turn.arrivals.filter((arrival) => arrival.from !== null && arrival.value !== null);
  return (
    <span className="flex flex-wrap gap-1">
      {handed.map((arrival) => (
        <BatonChip key={arrival.name} name={arrival.name} value={arrival.value ?? ''} />
      ))}
    </span>
  );
}
