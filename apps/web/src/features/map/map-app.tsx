import type { MapEditing } from './use-map-editing.ts';
import { useRead } from '../../client/use-read.ts';
import type { MapNode, MapView } from '@kindred-baton/contracts/map/node';
import FileDown from 'lucide-react/icons/file-down';
import FileUp from 'lucide-react/icons/file-up';
import ListChecks from 'lucide-react/icons/list-checks';
import Plus from 'lucide-react/icons/plus';
import Redo from 'lucide-react/icons/redo-2';
import Undo from 'lucide-react/icons/undo-2';
import { useMemo, useState } from 'react';
import { EmptyView } from '../../ui/empty-view.tsx';
import { countOf } from '../../ui/format.ts';
import { MenuButton } from '../../ui/menus/menu-button.tsx';
import { PageTitle } from '../../ui/page-title.tsx';
import { useAddress } from '../frame/address-context.tsx';
import { AppFrame } from '../frame/app-frame.tsx';
import type { PageProps } from '../frame/app-frame.tsx';
import { useProgramme } from '../frame/programme-context.tsx';
import { LevelsDialog } from './levels-dialog.tsx';
import { MapOutline } from './map-outline.tsx';
import { NodePanel } from './node-panel.tsx';
import { listShown } from './outline-state.ts';
import { RemoveNodesDialog } from './remove-nodes-dialog.tsx';
import { isUnsent, useMapEditing } from './use-map-editing.ts';
import { useOutlineActions } from './use-outline-actions.ts';

const KEYS = [
  { keys: '↑ ↓', does: 'Walk the outline; with Shift mark several' },
  { keys: '→ ←', does: 'Open and close a branch' },
  { keys: 'Enter', does: 'New node below the chosen one; Ctrl Enter: inside it' },
  { keys: 'F2', does: 'Rename in place' },
  { keys: 'Alt → ←', does: 'Indent and outdent what is marked' },
  { keys: 'Alt ↑ ↓', does: 'Move what is marked up and down' },
  { keys: 'Delete', does: 'Remove what is marked' },
  { keys: 'Ctrl V', does: 'Paste an indented list or spreadsheet rows as a branch' },
  { keys: 'Ctrl Z', does: 'Undo; with Shift redo' },
];

export function MapApp({ content, ...frame }: PageProps<MapView>) {
  return (
    <AppFrame {...frame} area="map" keys={KEYS}>
      <ProcessMap initial={content} />
    </AppFrame>
  );
}

const EXPORTS = ['xlsx', 'csv', 'json', 'bpmn'] as const;
const NO_MARKS: ReadonlySet<string> = new Set();

export function ProcessMap({ initial }: { readonly initial: MapView }) {
  const { api, base, can } = useProgramme();
  const address = useAddress();
  const editing = useMapEditing();
  const { data = initial, error } = useRead('getMap', {}, { ...startWith(initial), after: editing.whenSettled });
  const isWhole = data.more.nodes === 0;
  const [marked, setMarked] = useState(NO_MARKS);
  const [removing, setRemoving] = useState<readonly string[] | null>(null);
  const [isNaming, setIsNaming] = useState(false);
  const scope = address.get('scope');
  const chosen = address.get('node') ?? scope;
  const scoped = useMemo(() => takeBranch(data.nodes, scope), [data.nodes, scope]);
  const chosenNode = data.nodes.find((node) => node.code === chosen);
  const choose = (node: string, marks: ReadonlySet<string> = NO_MARKS) => {
    setMarked(marks);
    address.set({ node }, { replace: true });
  };
  const actions = useOutlineActions({ ...{ view: data, marked, editing, onRemove: setRemoving }, onChoose: choose });
  const level = data.levels[chosenNode ? chosenNode.depth : 0] ?? 'node';
  const query = scope === null ? '' : `&scope=${encodeURIComponent(scope)}`;
  return (
    <>
      <PageTitle title="Process map" about={describe(data, marked)}>
        <a className="button" href={address.withScope(`${base}/requirements`)}>
          <ListChecks size={17} aria-hidden /> Requirements
        </a>
        <MenuButton
          label="Export"
          icon={<FileDown size={17} aria-hidden />}
          choices={EXPORTS.map((format) => ({
            key: format,
            name: format.toUpperCase(),
            href: `${api}/map/export?format=${format}${query}`,
            isDownload: true,
          }))}
        />
        {can('edit map') && isWhole && (
          <EditButtons
            editing={editing}
            level={level}
            importPath={address.withScope(`${base}/map/import`)}
            onLevels={() => setIsNaming(true)}
            onNew={() => actions.beginNew('sibling', chosenNode, listShown(scoped, NO_MARKS))}
          />
        )}
      </PageTitle>
      {!isWhole && (
        <p role="status" className="mb-2 text-[13px] text-soft">
          {error
            ? `The other ${countOf(data.more.nodes, 'node')} are not here: ${error.message}`
            : `The other ${countOf(data.more.nodes, 'node')} are on their way …`}
        </p>
      )}
      {data.nodes.length === 0 && actions.typing === null ? (
        <div className="card">
          <EmptyView title="The map is empty">
            <p>
              Bring the business’s own list of processes in from a file, paste an indented list, or add the first {data.levels[0]} by hand.
            </p>
          </EmptyView>
        </div>
      ) : (
        <div className="grid gap-4 lg:grid-cols-[minmax(0,1fr)_316px]">
          <MapOutline
            nodes={scoped}
            chosen={chosen}
            marked={marked}
            onChoose={choose}
            actions={can('edit map') && isWhole ? actions : null}
          />
          <NodePanel
            code={chosenNode && !isUnsent(chosenNode) ? chosenNode.code : null}
            editing={editing}
            onRemove={(code) => setRemoving([code])}
          />
        </div>
      )}
      {removing && <RemoveNodesDialog codes={removing} editing={editing} onClose={() => setRemoving(null)} />}
      {isNaming && <LevelsDialog view={data} onClose={() => setIsNaming(false)} />}
    </>
  );
}

/** A map that came whole is the answer; the beginning of a long one is shown until that is here. */
const startWith = (initial: MapView) => (initial.more.nodes === 0 ? { initialData: initial } : { placeholderData: initial as never });

function describe({ nodes, levels, totals, since, more }: MapView, marked: ReadonlySet<string>): string {
  if (marked.size > 1) return `${marked.size} marked`;
  const changed = nodes.filter(({ isChanged }) => isChanged).length + more.changed;
  return [
    `${countOf(nodes.length + more.nodes, 'node')} in ${levels.length} levels`,
    `${countOf(totals.tests, 'test')}`,
    `${countOf(totals.scenarios, 'scenario')}`,
    ...(since && changed > 0 ? [`${changed} changed since ${since.code} opened`] : []),
  ].join(' · ');
}

/** A branch of the map, whole; all of it without a scope. */
function takeBranch(nodes: readonly MapNode[], scope: string | null): readonly MapNode[] {
  const start = nodes.findIndex((node) => node.code === scope);
  const head = nodes[start];
  if (!head) return nodes;
  const end = nodes.findIndex((node, index) => index > start && node.depth <= head.depth);
  return nodes.slice(start, end < 0 ? undefined : end);
}

interface EditButtonsProps {
  readonly editing: MapEditing;
  readonly level: string;
  readonly importPath: string;
  readonly onLevels: () => void;
  readonly onNew: () => void;
}

function EditButtons({ editing, level, importPath, onLevels, onNew }: EditButtonsProps) {
  return (
    <>
      <button type="button" className="button" disabled={!editing.undo} onClick={() => editing.undo?.()} aria-label="Undo">
        <Undo size={17} aria-hidden />
      </button>
      <button type="button" className="button" disabled={!editing.redo} onClick={() => editing.redo?.()} aria-label="Redo">
        <Redo size={17} aria-hidden />
      </button>
      <button type="button" className="button" onClick={onLevels}>
        Levels
      </button>
      <a className="button" href={importPath}>
        <FileUp size={17} aria-hidden /> Import
      </a>
      <button type="button" className="button button-primary" onClick={onNew}>
        <Plus size={17} aria-hidden /> {`New ${level}`}
      </button>
    </>
  );
}
