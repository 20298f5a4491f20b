import type { MapNode, MapView } from '@kindred-baton/contracts/map/node';
import { useQuery } from '@tanstack/react-query';
import FileDown from 'lucide-react/icons/file-down';
import FileUp from 'lucide-react/icons/file-up';
import Plus from 'lucide-react/icons/plus';
import { useMemo, useState } from 'react';
import { EmptyView } from '../../ui/empty-view.tsx';
import { countOf } from '../../ui/format.ts';
import { PageTitle } from '../../ui/page-title.tsx';
import { getJson } from '../../ui/request.ts';
import { useAddress } from '../frame/address-context.tsx';
import { AppFrame } from '../frame/app-frame.tsx';
import type { PageProps } from '../frame/app-frame.tsx';
import { useProgramme } from '../frame/programme-context.tsx';
import { AddNodeDialog } from './add-node-dialog.tsx';
import { MapOutline } from './map-outline.tsx';
import { NodePanel } from './node-panel.tsx';

const KEYS = [
  { keys: '↑ ↓', does: 'Walk the outline' },
  { keys: '→ ←', does: 'Open and close a branch' },
  { keys: 'Enter', does: 'Show the node at the right' },
];

export function MapApp({ content, ...frame }: PageProps<MapView>) {
  return (
    <AppFrame {...frame} area="map" keys={KEYS}>
      <ProcessMap initial={content} />
    </AppFrame>
  );
}

function ProcessMap({ initial }: { readonly initial: MapView }) {
  const { api, base, can } = useProgramme();
  const address = useAddress();
  const { data } = useQuery({ queryKey: ['map'], queryFn: () => getJson<MapView>(`${api}/map`), initialData: initial });
  const [isAdding, setIsAdding] = useState(false);
  const scope = address.get('scope');
  const chosen = address.get('node') ?? scope;
  const scoped = useMemo(() => takeBranch(data.nodes, scope), [data.nodes, scope]);
  const chosenNode = data.nodes.find((node) => node.code === chosen);
  const isLowest = chosenNode !== undefined && chosenNode.depth >= data.levels.length - 1;
  // Below the lowest level nothing goes: then the new node stands beside the chosen one.
  const above = isLowest ? data.nodes.find((node) => node.id === chosenNode.parentId) : chosenNode;
  const level = data.levels[(above?.depth ?? -1) + 1] ?? 'node';
  return (
    <>
      <PageTitle
        title="Process map"
        about={`${countOf(data.nodes.length, 'node')} in ${data.levels.length} levels · ${countOf(data.totals.tests, 'test')} · ${countOf(data.totals.scenarios, 'scenario')}`}
      >
        {can('edit map') && (
          <>
            <a className="button" href={`${base}/map/import`}>
              <FileUp size={17} aria-hidden /> Import
            </a>
            <a className="button" href={`${api}/imports/template`} download>
              <FileDown size={17} aria-hidden /> Empty template
            </a>
            <button type="button" className="button button-primary" onClick={() => setIsAdding(true)}>
              <Plus size={17} aria-hidden /> {above && !isLowest ? `Add ${level} below` : `Add ${level}`}
            </button>
          </>
        )}
      </PageTitle>
      {data.nodes.length === 0 ? (
        <div className="card">
          <EmptyView title="The map is empty">
            <p>Bring the business’s own list of processes in from a workbook, or add the first {data.levels[0]} by hand.</p>
          </EmptyView>
        </div>
      ) : (
        <div className="grid gap-4 lg:grid-cols-[minmax(0,1fr)_316px]">
          <MapOutline nodes={scoped} chosen={chosen} onChoose={(node) => address.set({ node })} />
          <NodePanel code={chosenNode?.code ?? null} />
        </div>
      )}
      <AddNodeDialog isOpen={isAdding} onClose={() => setIsAdding(false)} parent={above ?? null} level={level} nodes={data.nodes} />
    </>
  );
}

/** A branch of the map, whole; all of it without a scope. */
function takeBranch(nodes: readonly MapNode[], scope: string | null): readonly MapNode[] {
  const start = nodes.findIndex((node) => node.code === scope);
  const head = nodes[start];
  if (!head) return nodes;
  const end = nodes.findIndex((node, index) => index > start && node.depth <= head.depth);
  return nodes.slice(start, end < 0 ? undefined : end);
}
