import type { RunOverlay } from '@kindred-baton/contracts/scenarios/scenario';
import type { KeyboardEvent } from 'react';
import { useMemo, useRef, useState } from 'react';
import { EmptyView } from '../../ui/empty-view.tsx';
import { countOf } from '../../ui/format.ts';
import { LEG, layOutRelay } from './lay-out-relay.ts';
import { RelayLegCard } from './relay-leg-card.tsx';
import { RelayWires } from './relay-wires.tsx';
import type { ScenarioInHand } from './use-scenario.ts';

interface RelayViewProps {
  readonly hand: ScenarioInHand;
  readonly run: RunOverlay | null;
  readonly chosen: string | null;
  readonly onChoose: (leg: string | null) => void;
  readonly canEdit: boolean;
}

/** The relay: a row per lane, a column per leg, hand-overs drawn. */
export function RelayView({ hand, run, chosen, onChoose, canEdit }: RelayViewProps) {
  const { scenario, chain, findings } = hand;
  const frame = useRef<HTMLDivElement>(null);
  const [dragged, setDragged] = useState<string | null>(null);
  const laneOf = useMemo(() => {
    const lanes = new Map(scenario.legs.map((leg) => [leg.id as string, leg.team?.name ?? 'No team yet']));
    return (id: string) => lanes.get(id) ?? '';
  }, [scenario.legs]);
  const relay = useMemo(() => layOutRelay(chain, laneOf), [chain, laneOf]);
  const statusOf = useMemo(
    () => new Map((run?.turns ?? []).flatMap((turn) => (turn.legId ? [[turn.legId as string, turn] as const] : []))),
    [run],
  );
  const place = (index: number) => {
    const leg = scenario.legs[index];
    if (!leg) return;
    onChoose(leg.id);
    frame.current?.querySelector<HTMLElement>(`[data-leg="${leg.id}"]`)?.focus();
  };
  const move = (index: number, by: -1 | 1) => {
    const leg = scenario.legs[index];
    const before = by < 0 ? scenario.legs[index - 1] : scenario.legs[index + 2];
    const canMove = by < 0 ? index > 0 : index < scenario.legs.length - 1;
    if (leg && canMove) void hand.moveLeg(leg.id, before?.id ?? null);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const id = (event.target as HTMLElement).closest<HTMLElement>('[data-leg]')?.dataset['leg'];
    const index = scenario.legs.findIndex((leg) => leg.id === id);
    const leg = scenario.legs[index];
    const by = event.key === 'ArrowLeft' ? -1 : event.key === 'ArrowRight' ? 1 : null;
    if (by !== null && leg) {
      event.preventDefault();
      if (event.altKey && canEdit) move(index, by);
      else place(index + by);
    } else if (event.key === 'Delete' && leg && canEdit) void hand.removeLeg(leg);
    else if (event.key === 'Escape') onChoose(null);
  };
  const drop = (before: string | null) => {
    const leg = scenario.legs.find(({ id }) => id === dragged);
    setDragged(null);
    if (leg && leg.id !== before) void hand.moveLeg(leg.id, scenario.legs.find(({ id }) => id === before)?.id ?? null);
  };
  if (scenario.legs.length === 0) {
    return (
      <div className="card">
        <EmptyView title="No legs yet">Add the first leg: a test from the library, or in words what is still to be written.</EmptyView>
      </div>
    );
  }
  return (
    // The legs are the controls; the frame only hears their keys and what is dropped beside them.
    // eslint-disable-next-line jsx-a11y/no-static-element-interactions
    <div
      ref={frame}
      className="card overflow-x-auto"
      onKeyDown={onKeyDown}
      onDragOver={(event) => event.preventDefault()}
      onDrop={() => drop(null)}
    >
      <div className="relative" style={{ width: relay.width, height: relay.height, minWidth: '100%' }}>
        <ol aria-hidden className="absolute top-0 left-0">
          {Array.from({ length: relay.columns }, (_, column) => (
            <li
              key={column}
              className="absolute w-max pt-2.5 text-[13px] text-soft"
              style={{ left: LEG.laneWidth + column * LEG.columnWidth }}
            >
              {column + 1}
            </li>
          ))}
        </ol>
        {relay.lanes.map((lane, index) => (
          <div
            key={lane.name}
            className={`absolute inset-x-0 border-t border-line ${index % 2 === 0 ? 'bg-(--row-even)' : 'bg-(--row-odd)'}`}
            style={{ top: lane.y, height: lane.height }}
          >
            <div className="sticky left-0 z-10 h-full w-[114px] bg-inherit px-3 pt-3">
              <b className="line-clamp-2 leading-[17px] break-words" title={lane.name}>
                {lane.name}
              </b>
              <span className="text-[13px] text-soft">{countOf(lane.legs, 'leg')}</span>
            </div>
          </div>
        ))}
        <RelayWires relay={relay} statusOf={statusOf} chosen={chosen} />
        {relay.legs.map((leg) => {
          const detail = scenario.legs[leg.index];
          return detail ? (
            <RelayLegCard
              key={leg.id}
              leg={leg}
              detail={detail}
              turn={statusOf.get(leg.id) ?? null}
              isChosen={leg.id === chosen}
              isDragged={leg.id === dragged}
              errors={findings.filter((finding) => finding.leg === leg.id && finding.weight === 'error').length}
              onChoose={() => onChoose(leg.id === chosen ? null : leg.id)}
              {...(canEdit ? { onDrag: setDragged, onDropBefore: drop } : {})}
            />
          ) : null;
        })}
      </div>
    </div>
  );
}
