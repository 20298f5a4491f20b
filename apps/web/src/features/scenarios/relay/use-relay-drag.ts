import type { ScenarioEdit } from '@kindred-baton/core/scenarios/edit-scenario';
import { LEG } from '@kindred-baton/core/scenarios/relay';
import type { Relay } from '@kindred-baton/core/scenarios/relay';
import { createLeg } from '@kindred-baton/core/scenarios/scenario-document';
import type { DragEvent } from 'react';
import { useState } from 'react';
import type { ScenarioEditor } from '../use-scenario.ts';

/** What a dragged test is carried as; text/plain has its code for other programs. */
export const TEST_CARGO = 'application/x-kindred-baton-test';
const LEG_CARGO = 'application/x-kindred-baton-leg';

interface RelayDragProps {
  readonly editor: ScenarioEditor;
  readonly relay: Relay;
  readonly scale: number;
}

export interface LegDrag {
  readonly draggable: true;
  readonly onDragStart: (event: DragEvent) => void;
}

/** Legs are dragged to another place or lane, tests from the library into the chain. A mark shows where they would go. */
export function useRelayDrag({ editor, relay, scale }: RelayDragProps) {
  const [mark, setMark] = useState<number | null>(null);
  const findPlace = (event: DragEvent) => {
    const box = (event.currentTarget as HTMLElement).getBoundingClientRect();
    const target = event.currentTarget as HTMLElement;
    const x = (event.clientX - box.left + target.scrollLeft) / scale;
    const y = (event.clientY - box.top + target.scrollTop) / scale;
    const behind = [...relay.legs].sort((a, b) => a.index - b.index).find((leg) => leg.x + LEG.width / 2 > x);
    const lane = relay.lanes.find((each) => y >= each.y && y < each.y + each.height)?.name;
    return { behind: behind ?? null, lane, x };
  };
  const isOurs = ({ dataTransfer: { types } }: DragEvent) => types.includes(TEST_CARGO) || types.includes(LEG_CARGO);
  const onDragOver = (event: DragEvent) => {
    if (!isOurs(event)) return;
    event.preventDefault();
    const { behind } = findPlace(event);
    setMark(behind?.x ?? (relay.columns.at(-1) ?? LEG.laneWidth) + LEG.width + LEG.leastGap);
  };
  const onDrop = (event: DragEvent) => {
    if (!isOurs(event)) return;
    event.preventDefault();
    setMark(null);
    const { behind, lane } = findPlace(event);
    const code = event.dataTransfer.getData(TEST_CARGO);
    const edits =
      code === ''
        ? moveLeg(editor, event.dataTransfer.getData(LEG_CARGO), { before: behind?.id ?? null, lane })
        : [{ kind: 'add leg' as const, leg: createLeg({ id: crypto.randomUUID(), test: code }), before: behind?.id ?? null }];
    if (edits.length > 0) void editor.run(edits);
  };
  // From one part of the relay to another is no leaving.
  const onDragLeave = (event: DragEvent) => {
    if (!event.currentTarget.contains(event.relatedTarget as Node | null)) setMark(null);
  };
  const leg = (id: string): LegDrag => ({
    draggable: true,
    onDragStart: (event) => {
      event.dataTransfer.setData(LEG_CARGO, id);
      event.dataTransfer.effectAllowed = 'move';
    },
  });
  return { mark, leg, frame: { onDragOver, onDrop, onDragLeave, onDragEnd: () => setMark(null) } };
}

/** Another lane gives the leg to its team; another place moves it. */
function moveLeg(
  editor: ScenarioEditor,
  id: string,
  { before, lane }: { before: string | null; lane: string | undefined },
): ScenarioEdit[] {
  const leg = editor.legs.find((each) => each.id === id);
  if (!leg) return [];
  const team = editor.scenario.teams.find(({ name }) => name === lane);
  const edits: ScenarioEdit[] = [];
  if (team && team.id !== leg.team?.id)
    edits.push({ kind: 'change leg', leg: id, change: { team: team.id }, was: { team: leg.document.team } });
  const behind = editor.legs[leg.index + 1]?.id ?? null;
  if (before !== id && before !== behind) edits.push({ kind: 'move leg', leg: id, before });
  return edits;
}
