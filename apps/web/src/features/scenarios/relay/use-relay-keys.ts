import type { Relay } from '@kindred-baton/core/scenarios/relay';
import type { KeyboardEvent, RefObject } from 'react';
import { isTyping } from '../../../ui/is-typing.ts';
import type { Zoom } from './relay-zoom.tsx';
import type { LegInHand, ScenarioInHand } from '../use-scenario.ts';

export const RELAY_KEYS = [
  { keys: '← →', does: 'Walk the legs' },
  { keys: '↑ ↓', does: 'Walk the legs of the column' },
  { keys: 'Alt ← →', does: 'Move the leg earlier or later' },
  { keys: 'Alt ↑ ↓', does: 'Give the leg to the lane above or below' },
  { keys: 'A', does: 'Add legs behind this one' },
  { keys: 'Delete', does: 'Take the leg out' },
  { keys: '+ −', does: 'Draw larger or smaller' },
  { keys: 'Ctrl Z', does: 'Take the last edit back; with Shift make it again' },
  { keys: 'Esc', does: 'Choose no leg: show the wiring' },
];

interface RelayKeysProps {
  readonly hand: ScenarioInHand;
  readonly relay: Relay;
  readonly frame: RefObject<HTMLDivElement | null>;
  readonly onChoose: (leg: string | null) => void;
  readonly onAdd: () => void;
  readonly zoom: Zoom;
}

/** Everything that the mouse does in the relay, by keys. */
export function useRelayKeys({ hand, relay, frame, onChoose, onAdd, zoom }: RelayKeysProps): (event: KeyboardEvent) => void {
  const { legs, canEdit } = hand;
  const place = (index: number) => {
    const leg = legs[index];
    if (!leg) return;
    onChoose(leg.id);
    frame.current?.querySelector<HTMLElement>(`[data-leg="${leg.id}"]`)?.focus();
  };
  const move = (leg: LegInHand, by: -1 | 1) => {
    const before = by < 0 ? legs[leg.index - 1] : legs[leg.index + 2];
    const canMove = by < 0 ? leg.index > 0 : leg.index < legs.length - 1;
    if (canMove) void hand.run([{ kind: 'move leg', leg: leg.id, before: before?.id ?? null }]);
  };
  const shift = (leg: LegInHand, by: -1 | 1) => {
    const lane = relay.lanes[(relay.legs[leg.index]?.lane ?? 0) + by]?.name;
    const team = hand.scenario.teams.find(({ name }) => name === lane);
    if (team) void hand.changeLeg(leg, { team: team.id });
  };
  const climb = (leg: LegInHand, by: -1 | 1) => {
    const at = relay.legs[leg.index];
    const column = relay.legs.filter((other) => other.column === at?.column).sort((a, b) => a.y - b.y);
    const next = column[column.findIndex(({ id }) => id === leg.id) + by];
    if (next) place(next.index);
  };
  return (event) => {
    if (isTyping(event.target)) return;
    const id = (event.target as HTMLElement).closest<HTMLElement>('[data-leg]')?.dataset['leg'];
    const leg = legs.find((each) => each.id === id);
    const by = event.key === 'ArrowLeft' || event.key === 'ArrowUp' ? -1 : 1;
    const isAcross = event.key === 'ArrowLeft' || event.key === 'ArrowRight';
    const isUpright = event.key === 'ArrowUp' || event.key === 'ArrowDown';
    if (leg && (isAcross || isUpright)) {
      event.preventDefault();
      if (!event.altKey) (isAcross ? (index: number) => place(index + by) : () => climb(leg, by))(leg.index);
      else if (canEdit) (isAcross ? move : shift)(leg, by);
    } else if (event.key === 'Delete' && leg && canEdit) void hand.removeLeg(leg);
    else if (event.key.toLowerCase() === 'a' && canEdit && !event.ctrlKey && !event.metaKey) {
      event.preventDefault();
      onAdd();
    } else if (event.key === '+' || event.key === '=') zoom.step(1);
    else if (event.key === '-') zoom.step(-1);
    else if (event.key === 'Escape') onChoose(null);
  };
}
