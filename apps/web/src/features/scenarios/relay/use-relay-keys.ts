import type { Relay } from '@kindred-baton/core/scenarios/relay';
import type { KeyboardEvent, RefObject } from 'react';
import { isTyping } from '../../../ui/is-typing.ts';
import type { Zoom } from './relay-zoom.tsx';
import type { ScenarioEditor } from '../use-scenario.ts';
import type { RelayAct } from './read-relay-key.ts';
import { readRelayKey } from './read-relay-key.ts';

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
  readonly editor: ScenarioEditor;
  readonly relay: Relay;
  readonly frame: RefObject<HTMLDivElement | null>;
  readonly onChoose: (leg: string | null) => void;
  readonly onAdd: () => void;
  readonly zoom: Zoom;
}

/** Everything that the mouse does in the relay, by keys. */
export function useRelayKeys({ editor, relay, frame, onChoose, onAdd, zoom }: RelayKeysProps): (event: KeyboardEvent) => void {
  const { legs, canEdit } = editor;
  const choose = (index: number | null) => {
    const leg = index === null ? undefined : legs[index];
    onChoose(leg?.id ?? null);
    if (leg) frame.current?.querySelector<HTMLElement>(`[data-leg="${leg.id}"]`)?.focus();
  };
  const act = (wanted: RelayAct) => {
    if (wanted.kind === 'choose') choose(wanted.index);
    else if (wanted.kind === 'move') void editor.run([{ kind: 'move leg', leg: wanted.leg, before: wanted.before }]);
    else if (wanted.kind === 'zoom') zoom.step(wanted.by);
    else if (wanted.kind === 'add') onAdd();
    else if (wanted.kind === 'remove' || wanted.kind === 'shift') {
      const leg = legs[wanted.index];
      const team = wanted.kind === 'shift' ? editor.scenario.teams.find(({ name }) => name === wanted.lane) : undefined;
      if (leg && wanted.kind === 'remove') {
        // The place is kept: what comes behind it is chosen, at the end what stood before it.
        choose(legs[wanted.index + 1] ? wanted.index + 1 : wanted.index > 0 ? wanted.index - 1 : null);
        void editor.removeLeg(leg);
      } else if (leg && team) void editor.changeLeg(leg, { team: team.id });
    }
  };
  return (event) => {
    if (isTyping(event.target)) return;
    const id = (event.target as HTMLElement).closest<HTMLElement>('[data-leg]')?.dataset['leg'];
    const index = legs.find((each) => each.id === id)?.index ?? null;
    const pressed = { key: event.key, altKey: event.altKey, isCommand: event.ctrlKey || event.metaKey };
    const wanted = readRelayKey(pressed, { legs, relay, index, canEdit });
    if (!wanted) return;
    if (wanted.kind !== 'zoom' && event.key !== 'Escape') event.preventDefault();
    act(wanted);
  };
}
