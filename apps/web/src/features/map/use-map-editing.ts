import type { MapEditInput, MapNode, MapView } from '@kindred-baton/contracts/map/node';
import type { MapEdit } from '@kindred-baton/core/map/edit-outline';
import { editOutline } from '@kindred-baton/core/map/edit-outline';
import { getDepth, toOutlineTree } from '@kindred-baton/core/map/outline';
import { useQueryClient } from '@tanstack/react-query';
import { useCallback, useEffect, useRef, useState } from 'react';
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
  const { stacks, change } = useStacks();
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
        // Not waited for: taking the edit back needs the answer alone, and a page that others change asks again and again.
        for (const key of ['map', 'strip']) void client.invalidateQueries({ queryKey: [key] });
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
      change(({ undos }) => ({ undos: [...undos.slice(1 - MOST_REMEMBERED), back], redos: [] }));
      if ((await back) !== null) return true;
      change(({ undos, redos }) => ({ undos: undos.filter((each) => each !== back), redos }));
      return false;
    },
    [send, change],
  );
  /** Takes the last edits of one stack back; what takes that back goes on the other. */
  const turn = useCallback(
    (from: keyof Stacks, to: keyof Stacks) =>
      change((now) => {
        const back = now[from].at(-1);
        if (!back) return now;
        const again = back.then((edits) => (edits === null ? null : send(edits)));
        return { ...now, [from]: now[from].slice(0, -1), [to]: [...now[to], again] };
      }),
    [change, send],
  );
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 'z' || isTyping(event.target)) return;
      event.preventDefault();
      if (event.shiftKey) turn('redos', 'undos');
      else turn('undos', 'redos');
    };
    addEventListener('keydown', onKey);
    return () => removeEventListener('keydown', onKey);
  }, [turn]);
  return {
    ...{ run, whenSettled },
    undo: stacks.undos.length > 0 ? () => turn('undos', 'redos') : null,
    redo: stacks.redos.length > 0 ? () => turn('redos', 'undos') : null,
  };
}

interface Stacks {
  readonly undos: readonly Back[];
  readonly redos: readonly Back[];
}

/** Both stacks; a key that is pressed before the last change is drawn sees that change all the same. */
function useStacks() {
  const [stacks, setStacks] = useState<Stacks>({ undos: [], redos: [] });
  const now = useRef(stacks);
  const change = useCallback((decide: (stacks: Stacks) => Stacks) => {
    now.current = decide(now.current);
    setStacks(now.current);
  }, []);
  return { stacks, change };
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
