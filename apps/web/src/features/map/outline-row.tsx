import type { MapNode } from '@kindred-baton/contracts/map/node';
import ChevronDown from 'lucide-react/icons/chevron-down';
import ChevronRight from 'lucide-react/icons/chevron-right';
import type { DragEvent } from 'react';
import { COLUMNS } from './outline-columns.ts';
import type { DropKind } from './outline-state.ts';

interface OutlineRowProps {
  readonly node: MapNode;
  readonly index: number;
  readonly isChosen: boolean;
  readonly isMarked: boolean;
  readonly isOpen: boolean;
  readonly onClick: (node: MapNode, how: { readonly isMany: boolean; readonly isRange: boolean }) => void;
  readonly onOpen: (code: string, isOpen: boolean) => void;
  readonly drag: {
    readonly isOver: DropKind | null;
    readonly onStart: (event: DragEvent) => void;
    readonly onOver: (event: DragEvent) => void;
    readonly onDrop: (event: DragEvent) => void;
    readonly onEnd: () => void;
  } | null;
}

const OVER: Readonly<Record<DropKind, string>> = {
  before: 'shadow-[inset_0_2px_0_var(--baton-wire)]',
  inside: 'bg-baton-tint',
  after: 'shadow-[inset_0_-2px_0_var(--baton-wire)]',
};

export function OutlineRow({ node, index, isChosen, isMarked, isOpen, onClick, onOpen, drag }: OutlineRowProps) {
  const Chevron = isOpen ? ChevronDown : ChevronRight;
  const ground = isChosen || isMarked ? 'bg-baton-tint text-baton-ink' : 'hover:bg-band';
  return (
    // eslint-disable-next-line jsx-a11y/click-events-have-key-events, jsx-a11y/interactive-supports-focus -- the tree has the focus and the keys
    <div
      id={`node-${index}`}
      role="treeitem"
      aria-level={node.depth + 1}
      aria-selected={isChosen || isMarked}
      aria-expanded={node.hasChildren ? isOpen : undefined}
      draggable={drag !== null}
      onDragStart={drag?.onStart}
      onDragOver={drag?.onOver}
      onDrop={drag?.onDrop}
      onDragEnd={drag?.onEnd}
      onClick={(event) => onClick(node, { isMany: event.ctrlKey || event.metaKey, isRange: event.shiftKey })}
      className={`${COLUMNS} h-full cursor-pointer border-b border-line-2 px-4 select-none ${ground} ${drag?.isOver ? OVER[drag.isOver] : ''} ${node.isRetired ? 'opacity-60' : ''}`}
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
        <span className={`truncate ${node.hasChildren ? 'font-bold' : ''} ${node.isRetired ? 'line-through' : ''}`}>{node.name}</span>
        {node.isCritical && <span className="tag flex-none">critical</span>}
        {node.isRetired && <span className="tag flex-none">retired</span>}
        {node.isChanged && (
          <span className="tag flex-none border-dashed" title="Changed since the cycle opened">
            changed
          </span>
        )}
      </span>
      <span className="truncate text-[13px]">{node.team}</span>
      <span className="truncate text-[13px] text-soft">{node.application}</span>
      <Count number={node.tests} none="0" />
      <Count number={node.scenarios} none="in none" />
      <Coverage covered={node.covered} all={node.requirements} />
    </div>
  );
}

function Count({ number, none }: { readonly number: number; readonly none: string }) {
  return <span className="text-[13px]">{number > 0 ? number : <span className="text-failed">{none}</span>}</span>;
}

function Coverage({ covered, all }: { readonly covered: number; readonly all: number }) {
  if (all === 0) return <span className="opacity-70">–</span>;
  return (
    <span className="flex items-center gap-2" title={`${covered} of ${all} requirements have a test`}>
      <span className="h-[6px] w-[36px] flex-none rounded-full bg-line" aria-hidden>
        <span className="block h-full rounded-full bg-ink" style={{ width: `${(100 * covered) / all}%` }} />
      </span>
      <span className="font-mono text-[13px]">
        {covered}/{all}
      </span>
    </span>
  );
}
