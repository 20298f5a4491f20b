import type { MapNode } from '@kindred-baton/contracts/map/node';
import { useVirtualizer } from '@tanstack/react-virtual';
import ChevronDown from 'lucide-react/icons/chevron-down';
import ChevronRight from 'lucide-react/icons/chevron-right';
import type { KeyboardEvent } from 'react';
import { useEffect, useMemo, useRef, useState } from 'react';

interface MapOutlineProps {
  readonly nodes: readonly MapNode[];
  readonly chosen: string | null;
  readonly onChoose: (code: string) => void;
}

const ROW_PX = 35;
const COLUMNS = 'grid grid-cols-[86px_minmax(200px,1fr)_120px_140px_74px_118px] items-center';

/** The map as an outline of virtual rows: 5,000 nodes scroll as well as 100. */
export function MapOutline({ nodes, chosen, onChoose }: MapOutlineProps) {
  const [closed, setClosed] = useState<ReadonlySet<string>>(new Set());
  const frame = useRef<HTMLDivElement>(null);
  const shown = useMemo(() => listShown(nodes, closed), [nodes, closed]);
  const at = shown.findIndex((node) => node.code === chosen);
  // eslint-disable-next-line react-hooks/incompatible-library -- the library's own advice; nothing here is memoized by it
  const rows = useVirtualizer({
    count: shown.length,
    getScrollElement: () => frame.current,
    estimateSize: () => ROW_PX,
    overscan: 12,
    initialRect: { width: 900, height: 560 },
  });
  useEffect(() => {
    if (at >= 0) rows.scrollToIndex(at, { align: 'auto' });
    // Only a new choice scrolls; opening a branch does not.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [chosen]);
  const setOpen = (code: string, isOpen: boolean) =>
    setClosed((before) => {
      const next = new Set(before);
      if (isOpen) next.delete(code);
      else next.add(code);
      return next;
    });
  const onKeyDown = (event: KeyboardEvent) => {
    const here = shown[at];
    const step = event.key === 'ArrowDown' ? 1 : event.key === 'ArrowUp' ? -1 : 0;
    if (step !== 0) {
      event.preventDefault();
      const next = shown[Math.min(shown.length - 1, Math.max(0, at + step))];
      if (next) onChoose(next.code);
    } else if (here && event.key === 'ArrowRight') setOpen(here.code, true);
    else if (here && event.key === 'ArrowLeft') setOpen(here.code, false);
  };
  return (
    <div className="card min-w-0 self-start overflow-x-auto">
      <div className="min-w-[760px]">
        <div className={`${COLUMNS} border-b border-line px-4 py-2.5 text-[13px] font-semibold text-soft`} aria-hidden>
          <span>Code</span>
          <span>Name</span>
          <span>Team</span>
          <span>Application</span>
          <span>Scenarios</span>
          <span>Requirements</span>
        </div>
        <div
          ref={frame}
          role="tree"
          aria-label="Process map"
          tabIndex={0}
          aria-activedescendant={at >= 0 ? `node-${at}` : undefined}
          onKeyDown={onKeyDown}
          className="max-h-[max(300px,calc(100vh-262px))] overflow-y-auto outline-offset-[-2px]"
        >
          <div style={{ height: rows.getTotalSize(), position: 'relative' }} role="presentation">
            {rows.getVirtualItems().map((row) => {
              const node = shown[row.index];
              return node ? (
                <div key={node.code} className="absolute inset-x-0" role="presentation" style={{ top: row.start, height: ROW_PX }}>
                  <OutlineRow
                    node={node}
                    index={row.index}
                    isChosen={node.code === chosen}
                    isOpen={!closed.has(node.code)}
                    onChoose={onChoose}
                    onOpen={setOpen}
                  />
                </div>
              ) : null;
            })}
          </div>
        </div>
      </div>
    </div>
  );
}

function listShown(nodes: readonly MapNode[], closed: ReadonlySet<string>): MapNode[] {
  const shown: MapNode[] = [];
  let hiddenBelow = Infinity;
  for (const node of nodes) {
    if (node.depth > hiddenBelow) continue;
    hiddenBelow = closed.has(node.code) ? node.depth : Infinity;
    shown.push(node);
  }
  return shown;
}

interface OutlineRowProps {
  readonly node: MapNode;
  readonly index: number;
  readonly isChosen: boolean;
  readonly isOpen: boolean;
  readonly onChoose: (code: string) => void;
  readonly onOpen: (code: string, isOpen: boolean) => void;
}

/** The tree has the focus and its keys; a row takes the mouse. */
function OutlineRow({ node, index, isChosen, isOpen, onChoose, onOpen }: OutlineRowProps) {
  const Chevron = isOpen ? ChevronDown : ChevronRight;
  return (
    // eslint-disable-next-line jsx-a11y/click-events-have-key-events, jsx-a11y/interactive-supports-focus -- the tree has the focus and the keys
    <div
      id={`node-${index}`}
      role="treeitem"
      aria-level={node.depth + 1}
      aria-selected={isChosen}
      aria-expanded={node.hasChildren ? isOpen : undefined}
      onClick={() => onChoose(node.code)}
      className={`${COLUMNS} h-full cursor-pointer border-b border-line-2 px-4 ${isChosen ? 'bg-baton-tint text-baton-ink' : 'hover:bg-band'}`}
    >
      <span className="truncate font-mono text-[13px] opacity-80">{node.code}</span>
      <span className="flex min-w-0 items-center gap-1.5" style={{ paddingLeft: node.depth * 20 }}>
        {node.hasChildren ? (
          <button
            type="button"
            tabIndex={-1}
            aria-hidden
            className="flex h-6 w-6 flex-none items-center justify-center"
            onClick={(event) => {
              event.stopPropagation();
              onOpen(node.code, !isOpen);
            }}
          >
            <Chevron size={15} aria-hidden />
          </button>
        ) : (
          <span className="w-6 flex-none" />
        )}
        <span className={`truncate ${node.hasChildren ? 'font-bold' : ''}`}>{node.name}</span>
        {node.isCritical && <span className="tag flex-none">critical</span>}
      </span>
      <span className="truncate">{node.team}</span>
      <span className="truncate text-[13px] opacity-80">{node.application}</span>
      <span>{node.scenarios > 0 ? node.scenarios : <span className="text-failed">in none</span>}</span>
      <Coverage covered={node.covered} all={node.requirements} />
    </div>
  );
}

function Coverage({ covered, all }: { readonly covered: number; readonly all: number }) {
  if (all === 0) return <span className="opacity-70">–</span>;
  return (
    <span className="flex items-center gap-2" title={`${covered} of ${all} requirements have a test`}>
      <span className="h-[6px] w-[52px] flex-none rounded-full bg-line" aria-hidden>
        <span className="block h-full rounded-full bg-ink" style={{ width: `${(100 * covered) / all}%` }} />
      </span>
      <span className="font-mono text-[13px]">
        {covered}/{all}
      </span>
    </span>
  );
}
