import { getStatusLabel } from '@kindred-baton/core/outcomes';
import type { CyclePlanView, PlanTurn, StaffCycle } from '@kindred-baton/contracts/cycles/plan';
import { isThrough } from '@kindred-baton/core/cycles/plan/to-problem';
import type { KeyboardEvent } from 'react';
import { useState } from 'react';
import { BatonMark } from '../../../ui/baton-mark.tsx';
import { countOf, formatDay, formatMinutes } from '../../../ui/format.ts';
import { MenuButton } from '../../../ui/menus/menu-button.tsx';
import { createLaneOf } from './lay-out-load.ts';
import { FramedTable } from '../../../ui/framed-table.tsx';

interface LaneTurnsProps {
  readonly view: CyclePlanView;
  readonly lane: string;
  readonly toTurn: (id: string) => string;
  readonly canStaff: boolean;
  readonly chosen: ReadonlySet<PlanTurn['id']>;
  readonly onChoose: (chosen: ReadonlySet<PlanTurn['id']>) => void;
  readonly onStaff: (staff: StaffCycle) => void;
}

const SHOWN = 100;
const WAYS = [
  { key: 'balanced', name: 'Balanced: the longest first to whoever has the least' },
  { key: 'same person', name: 'The same person for neighbouring legs' },
  { key: 'four eyes', name: 'Four eyes: never the same for neighbouring legs' },
];

/** The turns of a lane that are left: choose some (click, Shift, Space), and give them to somebody by the menu, or drag them onto a name. */
export function LaneTurns({ view, lane, toTurn, canStaff, chosen, onChoose, onStaff }: LaneTurnsProps) {
  const [shown, setShown] = useState(SHOWN);
  const [anchor, setAnchor] = useState<number | null>(null);
  const laneOf = createLaneOf(view);
  const own = view.turns.filter((turn) => laneOf(turn) === lane && !isThrough(turn.status));
  const nameOf = new Map([...view.people, ...view.pools].map(({ id, name }) => [id as string, name]));
  const runOf = new Map(view.runs.map((run) => [run.id, run]));
  const ofTeams = new Set(own.map(({ team }) => team));
  const people = view.people.filter(({ teams }) => teams.some((team) => team === lane || ofTeams.has(team)));
  const toggle = (index: number, isRange: boolean) => {
    const next = new Set(chosen);
    const [from, to] = isRange && anchor !== null ? [Math.min(anchor, index), Math.max(anchor, index)] : [index, index];
    const here = own[index];
    const isOn = isRange || !here || !chosen.has(here.id);
    for (const turn of own.slice(from, to + 1))
      if (isOn) next.add(turn.id);
      else next.delete(turn.id);
    setAnchor(index);
    onChoose(next);
  };
  const give = (person: string) => onStaff({ kind: 'give', turns: [...chosen], personId: person === 'nobody' ? null : (person as never) });
  return (
    <section className="card mt-4" aria-label="Turns of the lane">
      <div className="flex flex-wrap items-center justify-between gap-2 border-b border-line-2 px-4 py-2.5">
        <h2>
          {countOf(own.length, 'turn')} left{' '}
          <span className="ml-2 text-[13px] font-normal text-soft">{chosen.size > 0 && `${chosen.size} chosen`}</span>
        </h2>
        {canStaff && (
          <span className="flex flex-wrap gap-2">
            <MenuButton
              label={chosen.size > 0 ? `Give ${chosen.size} to` : 'Give to'}
              isSmall
              isDisabled={chosen.size === 0}
              choices={[
                ...people.map(({ id, name }) => ({ key: id as string, name })),
                ...view.pools.map(({ id, name }) => ({ key: id as string, name: `${name} (runners)` })),
                { key: 'nobody', name: 'Nobody yet' },
              ]}
              onChoose={give}
            />
            {!view.pools.some(({ id }) => id === lane) && (
              <MenuButton
                label="Give out anew"
                isSmall
                choices={WAYS}
                onChoose={(way) => onStaff({ kind: 'assign', way: way as 'balanced', teams: [lane] })}
              />
            )}
          </span>
        )}
      </div>
      <div>
        <FramedTable heads={['', 'Turn', 'Run', 'With', 'Due', 'Minutes']} isBare>
          {own.slice(0, shown).map((turn, index) => (
            <TurnRow
              key={turn.id}
              turn={turn}
              run={runOf.get(turn.run)}
              person={turn.person === null ? null : (nameOf.get(turn.person) ?? 'somebody who left')}
              href={toTurn(turn.id)}
              isChosen={chosen.has(turn.id)}
              canStaff={canStaff && turn.status !== 'under way'}
              onToggle={(isRange) => toggle(index, isRange)}
              onDrag={() => !chosen.has(turn.id) && onChoose(new Set([turn.id]))}
            />
          ))}
        </FramedTable>
        {own.length > shown && (
          <p className="px-4 py-2">
            <button type="button" className="button button-small" onClick={() => setShown(shown + 10 * SHOWN)}>
              Show {Math.min(own.length - shown, 10 * SHOWN)} more
            </button>
          </p>
        )}
      </div>
    </section>
  );
}

interface TurnRowProps {
  readonly turn: PlanTurn;
  readonly run: CyclePlanView['runs'][number] | undefined;
  readonly person: string | null;
  readonly href: string;
  readonly isChosen: boolean;
  readonly canStaff: boolean;
  readonly onToggle: (isRange: boolean) => void;
  readonly onDrag: () => void;
}

/** Arrow keys go from row to row. */
function moveFocus(event: KeyboardEvent<HTMLInputElement>): void {
  const step = event.key === 'ArrowDown' ? 'nextElementSibling' : event.key === 'ArrowUp' ? 'previousElementSibling' : null;
  if (step === null) return;
  event.preventDefault();
  event.currentTarget.closest('tr')?.[step]?.querySelector('input')?.focus();
}

function TurnRow({ turn, run, person, href, isChosen, canStaff, onToggle, onDrag }: TurnRowProps) {
  return (
    <tr draggable={canStaff} onDragStart={onDrag} className={isChosen ? 'bg-baton-tint' : ''}>
      <td className="w-[34px]">
        <input
          type="checkbox"
          aria-label={`Choose ${turn.title}, run ${run?.number}`}
          checked={isChosen}
          disabled={!canStaff}
          onChange={() => undefined}
          onClick={(event) => onToggle(event.shiftKey)}
          onKeyDown={moveFocus}
        />
      </td>
      <td>
        <span className="flex items-center gap-2">
          <BatonMark status={turn.status} />
          <a className="hover:underline" href={href} title={getStatusLabel(turn.status)}>
            {turn.title}
          </a>
        </span>
      </td>
      <td className="text-[13px] text-soft">
        <span className="font-mono">{run?.number}</span> {run?.name}
      </td>
      <td className={`text-[13px] whitespace-nowrap ${person === null ? 'font-semibold text-failed' : ''}`}>{person ?? 'nobody yet'}</td>
      <td className="text-[13px] whitespace-nowrap">{turn.dueOn ? formatDay(turn.dueOn) : '–'}</td>
      <td className="text-right text-[13px] whitespace-nowrap">{formatMinutes(turn.minutes)}</td>
    </tr>
  );
}
