import type { TurnCard, TurnList } from '@kindred-baton/contracts/turns/turn';
import { assertNever } from '@kindred-baton/core/assert-never';
import { getStatusLabel } from '@kindred-baton/core/outcomes';
import type { GroupColumn, TurnColumn } from '@kindred-baton/core/turns/turn-columns';
import { getColumnLabel, getGroupKey, getNextSort, SORTED_COLUMNS, USUAL_COLUMNS } from '@kindred-baton/core/turns/turn-columns';
import { Fragment } from 'react';
import { AddressLink } from '../../ui/address-link.tsx';
import { BatonChip } from '../../ui/baton-chip.tsx';
import { StatusLabel } from '../../ui/baton-mark.tsx';
import { countOf, formatDay, formatMinutes, formatMoment } from '../../ui/format.ts';
import { useProgramme } from '../frame/programme-context.tsx';
import type { ListQuery } from './list-query.ts';

interface TurnTableProps {
  readonly turns: readonly TurnCard[];
  /** Those of several cycles: each says its own. */
  readonly hasCycles: boolean;
  /** How they are shown; left out: as they are, in the usual columns. */
  readonly query?: ListQuery;
  readonly groups?: TurnList['groups'];
}

const AS_THEY_ARE: ListQuery = { sort: null, group: null, columns: USUAL_COLUMNS };

/** Turns as lines: each opens its turn, its scenario, and says what it waits for. */
export function TurnTable({ turns, hasCycles, query = AS_THEY_ARE, groups = [] }: TurnTableProps) {
  const { group, columns } = query;
  return (
    <table className="grid-table">
      <thead>
        <tr>
          {columns.map((column) => (
            <Heading key={column} column={column} query={query} />
          ))}
        </tr>
      </thead>
      <tbody>
        {turns.map((turn, at) => {
          const before = turns[at - 1];
          const key = group === null ? '' : getGroupKey(turn, group);
          const isFirst = group !== null && (before === undefined || getGroupKey(before, group) !== key);
          return (
            <Fragment key={turn.id}>
              {isFirst && (
                <GroupLine
                  title={nameGroup(turn, group)}
                  {...(groups.find((own) => own.key === key) ?? { turns: 0, minutes: 0 })}
                  span={columns.length}
                />
              )}
              <tr className="hover:bg-band">
                {columns.map((column) => (
                  <Cell key={column} column={column} turn={turn} hasCycles={hasCycles} />
                ))}
              </tr>
            </Fragment>
          );
        })}
      </tbody>
    </table>
  );
}

function Heading({ column, query: { sort } }: { readonly column: TurnColumn; readonly query: ListQuery }) {
  const sorted = SORTED_COLUMNS.find((own) => own === column);
  if (!sorted) return <th scope="col">{getColumnLabel(column)}</th>;
  const direction = sort === sorted ? 'ascending' : sort === `-${sorted}` ? 'descending' : 'none';
  return (
    <th scope="col" aria-sort={direction}>
      <AddressLink className="hover:underline" changes={{ sort: getNextSort(sorted, sort), page: null }}>
        {getColumnLabel(column)}
        {direction !== 'none' && <span aria-hidden>{direction === 'ascending' ? ' ↑' : ' ↓'}</span>}
      </AddressLink>
    </th>
  );
}

interface GroupLineProps {
  readonly title: string;
  readonly turns: number;
  readonly minutes: number;
  readonly span: number;
}

/** A group counts all its turns, also those of other pages. */
const GroupLine = ({ title, turns, minutes, span }: GroupLineProps) => (
  <tr>
    <th scope="colgroup" colSpan={span} className="bg-band text-ink!">
      {title} <span className="font-normal text-soft">{`${countOf(turns, 'turn')}, ${formatMinutes(minutes)} of work`}</span>
    </th>
  </tr>
);

/** What the turns of a group have in common, in words. */
function nameGroup(turn: TurnCard, group: GroupColumn): string {
  const names: Readonly<Record<GroupColumn, string>> = {
    ...{ status: getStatusLabel(turn.status), scenario: turn.scenario.name, team: turn.team ?? 'No team', cycle: turn.cycle.name },
    ...{ person: turn.assignee ?? 'With nobody', due: turn.dueOn === null ? 'Without a due day' : `Due ${formatDay(turn.dueOn)}` },
  };
  return names[group];
}

interface CellProps {
  readonly column: TurnColumn;
  readonly turn: TurnCard;
  readonly hasCycles: boolean;
}

function Cell({ column, turn, hasCycles }: CellProps) {
  const { base, timeZone, nowMs } = useProgramme();
  switch (column) {
    case 'status':
      return (
        <td>
          <StatusLabel status={turn.status} word={turn.isRetest && turn.state === 'ready' ? 'Ready to try again' : undefined} />
        </td>
      );
    case 'turn':
      return (
        <td>
          <a className="font-semibold hover:underline" href={`${base}/turns/${turn.id}`}>
            {turn.title}
          </a>
          <span className="block font-mono text-[12px] text-soft">
            {hasCycles && `${turn.cycle.code} · `}
            {turn.test ?? 'open leg'} · leg {turn.leg} of {turn.legs}
          </span>
        </td>
      );
    case 'scenario':
      return (
        <td className="text-[13px]">
          <a className="hover:underline" href={`${base}/scenarios/${turn.scenario.code}`}>
            {turn.scenario.name}
          </a>
          {turn.scenario.rowName !== null && <span className="block text-soft">{turn.scenario.rowName}</span>}
        </td>
      );
    case 'team':
      return <td className="text-[13px]">{turn.team}</td>;
    case 'person':
      return <td className="text-[13px]">{turn.assignee ?? <span className="text-failed">nobody</span>}</td>;
    case 'due':
      return <td className="text-[13px] whitespace-nowrap">{turn.dueOn === null ? '–' : formatDay(turn.dueOn)}</td>;
    case 'waits':
      return (
        <td className="text-[13px]">
          <Waits turn={turn} />
        </td>
      );
    case 'minutes':
      return <td className="text-[13px] whitespace-nowrap">{formatMinutes(turn.minutes)}</td>;
    case 'changed':
      return (
        <td className="text-[13px] whitespace-nowrap" suppressHydrationWarning>
          {turn.changedAt === null ? '–' : formatMoment(turn.changedAt, timeZone, nowMs)}
        </td>
      );
    case 'cycle':
      return <td className="text-[13px]">{turn.cycle.name}</td>;
    default:
      return assertNever(column);
  }
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
