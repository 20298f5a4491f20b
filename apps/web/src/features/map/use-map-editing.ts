import { listTopics } from '../../client/stale.ts';
import { askAgain } from '../../client/use-changes.ts';
import { toKey } from '../../client/use-read.ts';
import { call } from '../../client/call.ts';
import type { MapEditInput, MapNode, MapView } from '@kindred-baton/contracts/map/node';
import type { MapEdit } from '@kindred-baton/core/map/edit-outline';
import { editOutline } from '@kindred-baton/core/map/edit-outline';
import { getDepth, toOutlineTree } from '@kindred-baton/core/map/outline';
import { useQueryClient } from '@tanstack/react-query';
import { useCallback } from 'react';
import type { Editing } from '../../ui/use-editing.ts';
import { useEditing } from '../../ui/use-editing.ts';
import { useProgramme } from '../frame/programme-context.tsx';

type Edits = readonly MapEditInput[];
export type MapEditing = Editing<MapEditInput>;

/** Edits of the map. */
export function useMapEditing(): MapEditing {
  const { api } = useProgramme();
  const client = useQueryClient();
  const show = useCallback(
    (edits: Edits) => {
      const view = client.getQueryData<MapView>(toKey('getMap', {}));
      const shown = view && applyLocally(view, edits);
      if (typeof shown === 'string') return shown;
      void client.cancelQueries({ queryKey: toKey('getMap', {}), exact: true });
      if (shown) client.setQueryData(toKey('getMap', {}), shown);
      return null;
    },
    [client],
  );
  const send = useCallback((edits: Edits) => call(api, 'editMap', { input: { edits: [...edits] } }), [api]);
  const ask = useCallback(() => void askAgain(client, listTopics('editMap')), [client]);
  return useEditing({ show, send, ask });
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
