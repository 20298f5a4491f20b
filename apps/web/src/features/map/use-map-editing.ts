import type { MapEditInput, MapNode, MapView } from '@kindred-baton/contracts/map/node';
import type { MapEdit } from '@kindred-baton/core/map/edit-outline';
import { editOutline } from '@kindred-baton/core/map/edit-outline';
import { getDepth, toOutlineTree } from '@kindred-baton/core/map/outline';
import { useQueryClient } from '@tanstack/react-query';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { isTyping } from '../../ui/is-typing.ts';
import { useNotice } from '../../ui/notices.tsx';
import { sendJson, toMessage } from '../../ui/request.ts';
import { useProgramme } from '../frame/programme-context.tsx';

type Edits = readonly MapEditInput[];
/** What takes edits back; known once the server has made them, null when it refused them. */
type Back = Promise<Edits | null>;

export interface MapEditing {
  /** Shows the edits at once and sends them; false when they cannot be made, which is told. */
  readonly run: (edits: Edits) => Promise<boolean>;
  readonly undo: (() => void) | null;
  readonly redo: (() => void) | null;
  /** Resolves when every edit has reached the server: before that its map is older than the one shown. */
  readonly whenSettled: () => Promise<void>;
}

const MOST_REMEMBERED = 100;

/** Edits of the map: at once on the screen, one after the other on the server, back when refused; with undo and redo. */
export function useMapEditing(): MapEditing {
  const { api } = useProgramme();
  const client = useQueryClient();
  const notify = useNotice();
  const [undos, setUndos] = useState<readonly Back[]>([]);
  const [redos, setRedos] = useState<readonly Back[]>([]);
  const last = useRef<Promise<unknown>>(Promise.resolve());
  const send = useCallback(
    async (edits: Edits): Back => {
      const view = client.getQueryData<MapView>(['map']);
      const shown = view && applyLocally(view, edits);
      if (typeof shown === 'string') {
        notify({ kind: 'problem', text: shown });
        return null;
      }
      void client.cancelQueries({ queryKey: ['map'], exact: true });
      if (shown) client.setQueryData(['map'], shown);
      const answer = last.current.then(() => sendJson<{ undo: MapEditInput[] }>('PATCH', `${api}/map`, { edits }));
      last.current = answer.catch(() => undefined);
      try {
        return (await answer).undo;
      } catch (error) {
        notify({ kind: 'problem', text: toMessage(error) });
        return null;
      } finally {
        await Promise.all([client.invalidateQueries({ queryKey: ['map'] }), client.invalidateQueries({ queryKey: ['strip'] })]);
      }
    },
    [api, client, notify],
  );
  const whenSettled = useCallback(async () => {
    for (let seen: unknown = null; seen !== last.current;) {
      seen = last.current;
      await last.current;
    }
  }, []);
  const run = useCallback(
    async (edits: Edits) => {
      const back = send(edits);
      setUndos((list) => [...list.slice(1 - MOST_REMEMBERED), back]);
      setRedos([]);
      if ((await back) !== null) return true;
      setUndos((list) => list.filter((each) => each !== back));
      return false;
    },
    [send],
  );
  const editing = useMemo(() => {
    const turn = (from: readonly Back[], setFrom: typeof setUndos, setTo: typeof setUndos) => {
      const back = from.at(-1);
      if (!back) return null;
      return () => {
        setFrom((list) => list.slice(0, -1));
        setTo((list) => [...list, back.then((edits) => (edits === null ? null : send(edits)))]);
      };
    };
    return { run, whenSettled, undo: turn(undos, setUndos, setRedos), redo: turn(redos, setRedos, setUndos) };
  }, [run, send, whenSettled, undos, redos]);
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 'z' || isTyping(event.target)) return;
      event.preventDefault();
      (event.shiftKey ? editing.redo : editing.undo)?.();
    };
    addEventListener('keydown', onKey);
    return () => removeEventListener('keydown', onKey);
  }, [editing]);
  return editing;
}

/** A node that is shown, but that the server does not know yet. */
export const isUnsent = ({ id }: Pick<MapNode, 'id'>) => id.startsWith('new-');

/** The view as it will be; a sentence when an edit cannot be made. */
function applyLocally(view: MapView, edits: Edits): MapView | string {
  const create = ({ code, name }: { code: string; name: string }, parent: MapNode | null): MapNode => ({
    ...{ id: `new-${code}` as MapNode['id'], code, name, parentId: null, depth: 0, owner: null },
    ...{ team: parent?.team ?? null, application: parent?.application ?? null, isCritical: false, isRetired: false, isChanged: true },
    ...{ hasChildren: false, tests: 0, scenarios: 0, requirements: 0, covered: 0 },
  });
  const edited = editOutline(view.nodes, edits as readonly MapEdit<MapNode>[], { levels: view.levels, create });
  if (!edited.ok) return edited.message;
  const tree = toOutlineTree(edited.nodes);
  const nodes = edited.nodes.map((node) => ({
    ...node,
    depth: getDepth(tree, node),
    hasChildren: (tree.childrenOf.get(node.id) ?? []).length > 0,
  }));
  return { ...view, nodes };
}
