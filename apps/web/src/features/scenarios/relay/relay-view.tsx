import type { Relay } from '@kindred-baton/core/scenarios/relay';
import type { RunOverlay } from '@kindred-baton/contracts/scenarios/scenario';
import { layOutRelay } from '@kindred-baton/core/scenarios/lay-out-relay';
import { LEG } from '@kindred-baton/core/scenarios/relay';
import { traceWay } from '@kindred-baton/core/scenarios/trace-way';
import { useMemo, useRef, useState } from 'react';
import { EmptyView } from '../../../ui/empty-view.tsx';
import { NO_TEAM, RelayLanes } from './relay-lanes.tsx';
import { RelayLegCard } from './relay-leg-card.tsx';
import { RelayWires } from './relay-wires.tsx';
import { RelayZoom, useZoom } from './relay-zoom.tsx';
import { useRelayDrag } from './use-relay-drag.ts';
import { useRelayKeys } from './use-relay-keys.ts';
import type { ScenarioEditor } from '../use-scenario.ts';

interface RelayViewProps {
  readonly editor: ScenarioEditor;
  readonly run: RunOverlay | null;
  readonly chosen: string | null;
  /** A value that the chosen leg gives, whose way is lit. */
  readonly value: string | null;
  readonly onChoose: (leg: string | null) => void;
  readonly onAdd: () => void;
}

/** The relay: a row per lane, a column per leg, hand-overs drawn. */
export function RelayView({ editor, run, chosen, value, onChoose, onAdd }: RelayViewProps) {
  const { legs, chain, findings, canEdit } = editor;
  const frame = useRef<HTMLDivElement>(null);
  const [folded, setFolded] = useState<ReadonlySet<string>>(new Set());
  const relay = useMemo(() => {
    const byId = new Map(legs.map((leg) => [leg.id, leg]));
    return layOutRelay(chain, {
      laneOf: (id) => byId.get(id)?.team?.name ?? NO_TEAM,
      waitDaysOf: (id) => byId.get(id)?.document.waitDays ?? 0,
      folded,
    });
  }, [legs, chain, folded]);
  const zoom = useZoom(frame, relay.width);
  const way = useMemo(() => (chosen === null ? null : traceWay(chain, chosen, value ?? undefined)), [chain, chosen, value]);
  const statusOf = useMemo(
    () => new Map((run?.turns ?? []).flatMap((turn) => (turn.legId ? [[turn.legId as string, turn] as const] : []))),
    [run],
  );
  const errorsOf = useMemo(() => {
    const counts = new Map<string, number>();
    for (const { leg, weight } of findings) if (weight === 'error') counts.set(leg, (counts.get(leg) ?? 0) + 1);
    return counts;
  }, [findings]);
  const onKeyDown = useRelayKeys({ editor, relay, frame, onChoose, onAdd, zoom });
  const drag = useRelayDrag({ editor, relay, scale: zoom.scale });
  const fold = (name: string) => setFolded(new Set(folded.has(name) ? [...folded].filter((each) => each !== name) : [...folded, name]));
  if (legs.length === 0) {
    return (
      <div className="card" {...(canEdit ? drag.frame : {})}>
        <EmptyView title="No legs yet">
          {canEdit
            ? 'Type what the business told you, a line a leg, or drag tests from the library in here: press “Add legs”.'
            : 'Nobody has laid this scenario out yet.'}
        </EmptyView>
      </div>
    );
  }
  return (
    <>
      {/* The legs are the controls; the frame only hears their keys and what is dropped on it. */}
      {/* eslint-disable-next-line jsx-a11y/no-static-element-interactions */}
      <div
        ref={frame}
        className="card max-h-[max(340px,calc(100vh-290px))] overflow-auto"
        onKeyDown={onKeyDown}
        {...(canEdit ? drag.frame : {})}
      >
        <div className="relative" style={{ width: relay.width, height: relay.height, minWidth: `${100 / zoom.scale}%`, zoom: zoom.scale }}>
          <ColumnNumbers columns={relay.columns} />
          <RelayLanes lanes={relay.lanes} scale={zoom.scale} onFold={fold} />
          <RelayWires relay={relay} statusOf={statusOf} way={way} />
          {drag.mark !== null && (
            <span
              aria-hidden
              className="absolute w-[4px] rounded-full bg-baton"
              style={{ left: drag.mark - 7, top: LEG.headHeight, bottom: 6 }}
            />
          )}
          {relay.legs.map((leg) => {
            const drawn = legs[leg.index];
            return drawn ? (
              <RelayLegCard
                key={leg.id}
                leg={leg}
                drawn={drawn}
                turn={statusOf.get(leg.id) ?? null}
                isChosen={leg.id === chosen}
                isDim={way !== null && way.wires.size > 0 && !way.legs.has(leg.id)}
                errors={errorsOf.get(leg.id) ?? 0}
                onChoose={() => onChoose(leg.id === chosen ? null : leg.id)}
                {...(canEdit ? { drag: drag.leg(leg.id) } : {})}
              />
            ) : null;
          })}
        </div>
      </div>
      <RelayZoom zoom={zoom} />
    </>
  );
}

function ColumnNumbers({ columns }: Pick<Relay, 'columns'>) {
  return (
    <ol aria-hidden className="sticky top-0 z-[15] bg-sheet" style={{ height: LEG.headHeight, marginBottom: -LEG.headHeight }}>
      {columns.map((x, column) => (
        <li key={x} className="absolute w-max pt-2.5 text-[13px] text-soft" style={{ left: x }}>
          {column + 1}
        </li>
      ))}
    </ol>
  );
}
