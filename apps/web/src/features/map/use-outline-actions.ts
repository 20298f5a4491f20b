import type { MapNode, MapView } from '@kindred-baton/contracts/map/node';
import { toOutlineTree } from '@kindred-baton/core/map/outline';
import type { OutlineKey } from '@kindred-baton/core/map/outline-keys';
import { placeByKey, takeTopmost } from '@kindred-baton/core/map/outline-keys';
import { parseOutlineText } from '@kindred-baton/core/map/parse-outline-text';
import type { KeyboardEvent } from 'react';
import { useState } from 'react';
import { countOf } from '../../ui/format.ts';
import { useNotice } from '../../ui/notices.tsx';
import type { DropKind, NewPlace } from './outline-state.ts';
import { placeNew, toAddEdit, toDropEdit, toPasteEdits } from './outline-state.ts';
import type { MapEditing } from './use-map-editing.ts';

type Typing = { readonly kind: 'new'; readonly place: NewPlace } | { readonly kind: 'rename'; readonly code: string };

interface Over {
  readonly code: string;
  readonly kind: DropKind;
}

export interface OutlineActions {
  readonly typing: Typing | null;
  readonly over: Over | null;
  readonly isDragging: boolean;
  readonly beginNew: (kind: 'sibling' | 'child', from: MapNode | undefined, shown: readonly MapNode[]) => void;
  readonly rename: (code: string) => void;
  /** Whether the key was one of the outline’s. */
  readonly onKey: (event: KeyboardEvent, here: MapNode | undefined, shown: readonly MapNode[]) => boolean;
  readonly onTyped: (name: string | null, isGoingOn: boolean) => void;
  readonly onPaste: (text: string, here: MapNode | undefined) => boolean;
  readonly onDragStart: (node: MapNode) => void;
  readonly onDragOver: (over: Over | null) => void;
  readonly onDrop: (target: MapNode, kind: DropKind) => void;
}

interface OutlineSetting {
  readonly view: MapView;
  readonly marked: ReadonlySet<string>;
  readonly editing: MapEditing;
  readonly onChoose: (code: string) => void;
  readonly onRemove: (codes: readonly string[]) => void;
}

const MOVES: Readonly<Record<string, OutlineKey>> = { ArrowRight: 'indent', ArrowLeft: 'outdent', ArrowUp: 'up', ArrowDown: 'down' };

/** What keys, clipboard and mouse do to the outline: each becomes edits of the map. */
export function useOutlineActions({ view, marked, editing, onChoose, onRemove }: OutlineSetting): OutlineActions {
  const notify = useNotice();
  const [typing, setTyping] = useState<Typing | null>(null);
  const [dragged, setDragged] = useState<ReadonlySet<string> | null>(null);
  const [over, setOver] = useState<Over | null>(null);
  const listMarked = (here: MapNode) => (marked.has(here.code) && marked.size > 0 ? marked : new Set([here.code]));
  const move = (key: OutlineKey, here: MapNode) => {
    const tree = toOutlineTree(view.nodes);
    const places = placeByKey(tree, takeTopmost(tree, view.nodes, listMarked(here)), key);
    if (places) void editing.run([{ kind: 'move', places: [...places] }]);
  };
  const beginNew: OutlineActions['beginNew'] = (kind, from, shown) => {
    const isLowest = from !== undefined && from.depth >= view.levels.length - 1;
    setTyping({ kind: 'new', place: placeNew(toOutlineTree(view.nodes), from, isLowest ? 'sibling' : kind, shown) });
  };
  const onTyped: OutlineActions['onTyped'] = (name, isGoingOn) => {
    const now = typing;
    setTyping(null);
    if (!now || name === null) return;
    if (now.kind === 'rename') return void editing.run([{ kind: 'change', code: now.code, change: { name } }]);
    const add = toAddEdit(view, now.place, name);
    void editing.run([add]);
    onChoose(add.code);
    // The next one can be typed at once; the server follows.
    if (isGoingOn) setTyping({ kind: 'new', place: { ...now.place, at: now.place.at + 1, under: add.code } });
  };
  const onPaste: OutlineActions['onPaste'] = (text, here) => {
    const lines = parseOutlineText(text);
    if (lines.length === 0) return false;
    const tree = toOutlineTree(view.nodes);
    const place = placeNew(tree, here, here && here.depth < view.levels.length - 1 ? 'child' : 'sibling', view.nodes);
    void editing
      .run(toPasteEdits(view, place, lines))
      .then(
        (isDone) => isDone && notify({ kind: 'done', text: `${countOf(lines.length, 'node')} pasted below ${here?.name ?? 'the top'}.` }),
      );
    return true;
  };
  const onKey: OutlineActions['onKey'] = (event, here, shown) => {
    const isCommand = event.ctrlKey || event.metaKey;
    if (event.key === 'Enter' || event.key === 'Insert') {
      beginNew(isCommand || event.key === 'Insert' ? 'child' : 'sibling', here, shown);
      return true;
    }
    if (!here) return false;
    const key = event.altKey ? MOVES[event.key] : undefined;
    if (key) move(key, here);
    else if (event.key === 'F2') setTyping({ kind: 'rename', code: here.code });
    else if (event.key === 'Delete') onRemove([...listMarked(here)]);
    else return false;
    return true;
  };
  return {
    ...{ typing, over, isDragging: dragged !== null, beginNew, onKey, onPaste, onTyped },
    rename: (code) => setTyping({ kind: 'rename', code }),
    onDragStart: (node) => setDragged(listMarked(node)),
    onDragOver: (next) => {
      setOver(next);
      if (next === null) setDragged(null);
    },
    onDrop: (target, kind) => {
      const edit = dragged && toDropEdit(view.nodes, dragged, target, kind);
      if (edit) void editing.run([edit]);
      setOver(null);
      setDragged(null);
    },
  };
}
