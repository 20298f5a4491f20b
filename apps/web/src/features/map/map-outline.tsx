import type { MapNode } from '@kindred-baton/contracts/map/node';
import { useVirtualizer } from '@tanstack/react-virtual';
import type { ClipboardEvent, DragEvent, KeyboardEvent, RefObject } from 'react';
import { useEffect, useMemo, useRef, useState } from 'react';
import { OutlineInput } from './outline-input.tsx';
import { OutlineRow } from './outline-row.tsx';
import { COLUMNS } from './outline-columns.ts';
import type { OutlineActions } from './use-outline-actions.ts';
import type { DropKind } from './outline-state.ts';
import { listShown } from './outline-state.ts';

interface MapOutlineProps {
  readonly nodes: readonly MapNode[];
  readonly chosen: string | null;
  readonly marked: ReadonlySet<string>;
  readonly onChoose: (code: string, marked: ReadonlySet<string>) => void;
  /** Null for those who only read. */
  readonly actions: OutlineActions | null;
}

const ROW_PX = 35;

type Row =
  { readonly kind: 'node'; readonly node: MapNode } | { readonly kind: 'new'; readonly depth: number; readonly under: string | null };

/** The map as an outline of virtual rows: 5,000 nodes scroll as well as 100. The tree hears the keys, a row the mouse. */
export function MapOutline({ nodes, chosen, marked, onChoose, actions }: MapOutlineProps) {
  const { closed, setOpen } = useBranches();
  const frame = useRef<HTMLDivElement>(null);
  const shown = useMemo(() => listShown(nodes, closed), [nodes, closed]);
  const typing = actions?.typing ?? null;
  const list = useMemo(() => insertNew(shown, typing?.kind === 'new' ? typing.place : null), [shown, typing]);
  const at = shown.findIndex((node) => node.code === chosen);
  // eslint-disable-next-line react-hooks/incompatible-library -- the library's own advice; nothing here is memoized by it
  const rows = useVirtualizer({
    count: list.length,
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
  const newAt = list.findIndex((row) => row.kind === 'new');
  useEffect(() => {
    if (newAt >= 0) rows.scrollToIndex(newAt, { align: 'auto' });
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [newAt]);
  const { onKeyDown, onPaste, onClick } = useOutlineEvents({ shown, at, chosen, marked, actions, frame, onChoose, onOpen: setOpen });
  return (
    <div className="card min-w-0 self-start overflow-x-auto">
      <div className="min-w-[720px]">
        <OutlineHead />
        <div
          ref={frame}
          role="tree"
          aria-label="Process map"
          aria-multiselectable
          tabIndex={0}
          aria-activedescendant={at >= 0 ? `node-${at}` : undefined}
          onKeyDown={onKeyDown}
          onPaste={onPaste}
          className="max-h-[max(300px,calc(100vh-262px))] overflow-y-auto outline-offset-[-2px]"
        >
          <div style={{ height: rows.getTotalSize(), position: 'relative' }} role="presentation">
            {rows.getVirtualItems().map(({ index, start }) => {
              const row = list[index];
              if (!row) return null;
              const key = row.kind === 'new' ? `new under ${row.under}` : row.node.code;
              return (
                <div key={key} className="absolute inset-x-0" role="presentation" style={{ top: start, height: ROW_PX }}>
                  {row.kind === 'new' || (typing?.kind === 'rename' && typing.code === row.node.code) ? (
                    <OutlineInput
                      depth={row.kind === 'new' ? row.depth : row.node.depth}
                      code={row.kind === 'new' ? '' : row.node.code}
                      initial={row.kind === 'new' ? '' : row.node.name}
                      onDone={(name, isGoingOn) => {
                        frame.current?.focus({ preventScroll: true });
                        actions?.onTyped(name, isGoingOn);
                      }}
                    />
                  ) : (
                    <OutlineRow
                      node={row.node}
                      index={shown.indexOf(row.node)}
                      isChosen={row.node.code === chosen}
                      isMarked={marked.has(row.node.code)}
                      isOpen={!closed.has(row.node.code)}
                      onClick={onClick}
                      onOpen={setOpen}
                      drag={actions && toDrag(row.node, actions)}
                    />
                  )}
                </div>
              );
            })}
          </div>
        </div>
      </div>
    </div>
  );
}

/** The branches that are closed, and the way to open and close one. */
function useBranches() {
  const [closed, setClosed] = useState<ReadonlySet<string>>(new Set());
  const setOpen = (code: string, isOpen: boolean) =>
    setClosed((before) => {
      const next = new Set(before);
      if (isOpen) next.delete(code);
      else next.add(code);
      return next;
    });
  return { closed, setOpen };
}

function insertNew(shown: readonly MapNode[], place: { readonly under: string | null; readonly depth: number } | null): Row[] {
  const rows = shown.map((node): Row => ({ kind: 'node', node }));
  if (place === null) return rows;
  const at = place.under === null ? 0 : shown.findIndex(({ code }) => code === place.under) + 1;
  return [...rows.slice(0, at), { kind: 'new', depth: place.depth, under: place.under }, ...rows.slice(at)];
}

function toggle(set: Set<string>, code: string): Set<string> {
  if (!set.delete(code)) set.add(code);
  return set;
}

const toDropKind = (event: DragEvent): DropKind => {
  const { top, height } = event.currentTarget.getBoundingClientRect();
  const share = (event.clientY - top) / height;
  return share < 0.28 ? 'before' : share > 0.72 ? 'after' : 'inside';
};

function toDrag(node: MapNode, actions: OutlineActions) {
  return {
    isOver: actions.over?.code === node.code ? actions.over.kind : null,
    onStart: (event: DragEvent) => {
      event.dataTransfer.effectAllowed = 'move';
      event.dataTransfer.setData('text/plain', node.name);
      actions.onDragStart(node);
    },
    onOver: (event: DragEvent) => {
      if (!actions.isDragging) return;
      event.preventDefault();
      actions.onDragOver({ code: node.code, kind: toDropKind(event) });
    },
    onDrop: (event: DragEvent) => {
      event.preventDefault();
      actions.onDrop(node, toDropKind(event));
    },
    onEnd: () => actions.onDragOver(null),
  };
}

interface OutlineEventsProps {
  readonly shown: readonly MapNode[];
  /** The place of the chosen row among the shown ones; -1: none. */
  readonly at: number;
  readonly chosen: string | null;
  readonly marked: ReadonlySet<string>;
  readonly actions: OutlineActions | null;
  readonly frame: RefObject<HTMLDivElement | null>;
  readonly onChoose: MapOutlineProps['onChoose'];
  readonly onOpen: (code: string, isOpen: boolean) => void;
}

/** Walking, marking, opening and choosing rows, by keys, clipboard and mouse. */
function useOutlineEvents({ shown, at, chosen, marked, actions, frame, onChoose, onOpen }: OutlineEventsProps) {
  const walk = (by: number, isMarking: boolean) => {
    const next = shown[Math.min(shown.length - 1, Math.max(0, at + by))];
    if (!next) return;
    onChoose(next.code, isMarking && chosen !== null ? new Set([...marked, chosen, next.code]) : new Set());
  };
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.target !== event.currentTarget) return;
    const here = shown[at];
    if (actions?.onKey(event, here, shown)) return event.preventDefault();
    if (event.altKey || event.ctrlKey || event.metaKey) return;
    const page = Math.max(1, Math.floor((frame.current?.clientHeight ?? 0) / ROW_PX) - 1);
    const by = { ArrowDown: 1, ArrowUp: -1, PageDown: page, PageUp: -page, Home: -shown.length, End: shown.length }[event.key];
    if (by !== undefined) {
      event.preventDefault();
      walk(by, event.shiftKey);
    } else if (here && event.key === 'ArrowRight') onOpen(here.code, true);
    else if (here && event.key === 'ArrowLeft') onOpen(here.code, false);
  };
  const onPaste = (event: ClipboardEvent) => {
    if (event.target === event.currentTarget && actions?.onPaste(event.clipboardData.getData('text/plain'), shown[at]))
      event.preventDefault();
  };
  const onClick = (node: MapNode, { isMany, isRange }: { isMany: boolean; isRange: boolean }) => {
    frame.current?.focus({ preventScroll: true });
    if (isRange && at >= 0) {
      const to = shown.indexOf(node);
      onChoose(node.code, new Set(shown.slice(Math.min(at, to), Math.max(at, to) + 1).map(({ code }) => code)));
    } else onChoose(node.code, isMany ? toggle(new Set(chosen === null ? marked : [...marked, chosen]), node.code) : new Set());
  };
  return { onKeyDown, onPaste, onClick };
}

function OutlineHead() {
  return (
    <div className={`${COLUMNS} border-b border-line px-4 py-2.5 text-[13px] font-semibold text-soft`} aria-hidden>
      {['Code', 'Name', 'Team', 'Application', 'Tests', 'Scenarios', 'Requirements'].map((head) => (
        <span key={head} className="truncate">
          {head}
        </span>
      ))}
    </div>
  );
}
