import { useRead } from '../../client/use-read.ts';
import type { StripView } from '@kindred-baton/contracts/map/strip';
import type { StripNode } from '@kindred-baton/core/progress/strip';
import { unpackStrip } from '@kindred-baton/core/progress/strip';
import { sumCounts } from '@kindred-baton/core/progress/tally';
import { keepPreviousData } from '@tanstack/react-query';
import ChevronDown from 'lucide-react/icons/chevron-down';
import type { KeyboardEvent, MouseEvent } from 'react';
import { useEffect, useMemo, useRef, useState } from 'react';
import { BatonBar, describeCounts } from '../../ui/baton-mark.tsx';
import { countOf } from '../../ui/format.ts';
import { showLabel } from '../../ui/show-label.ts';
import { useAddress } from './address-context.tsx';
import type { StripBlock } from './lay-out-strip.ts';
import { layOutStrip } from './lay-out-strip.ts';
import { useLit } from './lit-context.tsx';
import { useFolded } from './use-folded.ts';
import { walkStrip } from './walk-strip.ts';

const FIRST_WIDTH_PX = 1_248;
/** Another branch is read from its beginning. */
const FIRST_PAGE = { page: null, across: null, fromRow: null, fromColumn: null };

/** Where am I, how is it going, and what am I looking at: the map as a strip. Choosing a block scopes every view to it. */
export function Strip({ initial }: { readonly initial: StripView }) {
  const address = useAddress();
  const scope = address.get('scope');
  const { data, nodes } = useStrip(initial, scope);
  const [width, setWidth] = useState(FIRST_WIDTH_PX);
  const lit = useLit().codes;
  const [isFolded, setIsFolded] = useFolded();
  const tree = useRef<HTMLDivElement>(null);
  useEffect(() => {
    const observer = new ResizeObserver(([entry]) => entry && setWidth(entry.contentRect.width));
    if (tree.current) observer.observe(tree.current);
    return () => observer.disconnect();
  }, []);
  const path = useMemo(() => findPath(nodes, scope) ?? data.path, [nodes, scope, data.path]);
  const rows = useMemo(() => layOutStrip(nodes, width, path), [nodes, width, path]);
  const [walked, setWalked] = useState<string | null>(null);
  const active = findShown(nodes, rows, walked ?? scope) ?? rows[0]?.[0]?.key ?? null;
  const choose = (code: string | null) => address.set({ scope: code === scope ? null : code, ...FIRST_PAGE });
  // Blocks that were joined lead to what they lie in.
  const chooseBlock = (block: StripBlock | undefined) => {
    const code = block?.code ?? block?.parent;
    if (code) choose(code);
  };
  const onClick = (event: MouseEvent) => {
    const { id } = (event.target as HTMLElement).closest('[role=treeitem]') ?? {};
    chooseBlock(rows.flat().find(({ key }) => toElementId(key) === id));
  };
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.key === 'Escape' && scope !== null) return choose(path.at(-2) ?? null);
    if (event.key === 'Enter' || event.key === ' ') {
      event.preventDefault();
      chooseBlock(rows.flat().find(({ key }) => key === active));
      return;
    }
    const next = walkStrip(rows, active, event.key);
    if (next === null) return;
    event.preventDefault();
    setWalked(next);
  };
  if (nodes.length === 0) return null;
  const shown = isFolded ? rows.slice(0, 1) : rows;
  return (
    <div className="no-print relative hidden border-b border-line bg-sheet px-4 py-2.5 md:block">
      <div
        ref={tree}
        role="tree"
        tabIndex={0}
        aria-label={data.cycle ? `Process strip, ${data.cycle.name}` : 'Process strip'}
        aria-activedescendant={active === null ? undefined : toElementId(active)}
        onClick={onClick}
        onKeyDown={onKeyDown}
        onMouseOver={showLabel}
        onFocus={showLabel}
        className="group rounded-[4px]"
      >
        {shown.map((row, depth) => (
          <div key={depth} role="presentation" className={`${BLOCKS} ${ROW_LOOKS[depth] ?? ''}`}>
            {row.map((block) => (
              <Block
                key={block.key}
                block={block}
                isChosen={block.code === scope && scope !== null}
                isActive={block.key === active}
                isLit={block.code !== null && lit.has(block.code)}
              />
            ))}
          </div>
        ))}
      </div>
      <FoldButton isFolded={isFolded} onFold={setIsFolded} />
    </div>
  );
}

const toElementId = (key: string) => `strip-${key.replace(/[^A-Za-z0-9-]/g, '_')}`;

/** Of an activity, what lies in it is asked for too; above it all is drawn anyway. */
const UNFOLDS_FROM = 2;

/** The strip as it is now, with the next level of the branch that is chosen. */
function useStrip(initial: StripView, scope: string | null) {
  const [first] = useState(() => ({ scope, nodes: unpackStrip(initial.nodes) }));
  const toBranch = (code: string | null) => {
    const node = first.nodes.find((one) => one.code === code);
    const isDrawnWhole = node && (node.depth < UNFOLDS_FROM || (node.depth === UNFOLDS_FROM && node.leaves === 1));
    return code === null || isDrawnWhole ? null : code;
  };
  const branch = toBranch(scope);
  const { data = initial } = useRead(
    'getStrip',
    { input: branch === null ? {} : { branch } },
    { ...(branch === toBranch(first.scope) ? { initialData: initial } : {}), placeholderData: keepPreviousData },
  );
  const nodes = useMemo(
    () => (data.nodes === initial.nodes ? first.nodes : unpackStrip(data.nodes)),
    [data.nodes, initial.nodes, first.nodes],
  );
  return { data, nodes };
}

/** From the top to a node that is drawn. */
function findPath(nodes: readonly StripNode[], code: string | null): string[] | undefined {
  const path: string[] = [];
  for (let at = nodes.findIndex((node) => node.code === code); at >= 0; at = nodes[at]?.parent ?? -1) path.unshift(nodes[at]?.code ?? '');
  return path.length > 0 ? path : undefined;
}

/** The block of a place; where it was joined with others, the block that it lies in. */
function findShown(nodes: readonly StripNode[], rows: readonly (readonly StripBlock[])[], key: string | null): string | null {
  const keys = new Set(rows.flat().map((block) => block.key));
  return findPath(nodes, key)?.findLast((code) => keys.has(code)) ?? (key !== null && keys.has(key) ? key : null);
}

/** What all blocks of a row have in common is said once. */
const BLOCKS = 'relative [&>*]:absolute [&>*]:top-0 [&>*]:h-full [&>*]:cursor-pointer [&>*]:overflow-hidden [&>*]:rounded-[4px]';

const toPercent = (share: number) => `${(share * 100).toFixed(3)}%`;

const NAMED =
  '[&>*]:bg-band [&>*>div]:truncate [&>*>div]:px-2 [&>*>div]:text-[13px] [&>*>div]:leading-[21px] [&_.baton-bar]:absolute [&_.baton-bar]:inset-x-0 [&_.baton-bar]:bottom-0 [&_.baton-bar]:h-[4px]! [&_.baton-bar]:min-w-0! [&_.baton-bar]:rounded-none! [&_.baton-bar]:border-0!';

/** The third row is too low for names; what is unfolded has them again. */
const ROW_LOOKS = [
  `h-[27px] [&>*>div]:font-bold ${NAMED}`,
  `mt-[2px] h-[25px] ${NAMED}`,
  'mt-[3px] h-[12px] [&_.baton-bar]:h-[11px]! [&_.baton-bar]:min-w-0!',
  `mt-[3px] h-[25px] ${NAMED}`,
];

interface BlockProps {
  readonly block: StripBlock;
  readonly isChosen: boolean;
  readonly isActive: boolean;
  readonly isLit: boolean;
}

function Block({ block, isChosen, isActive, isLit }: BlockProps) {
  const turns = sumCounts(block.counts);
  const isThin = block.depth === 2;
  const ring = isLit
    ? 'ring-2 ring-baton z-[2]'
    : isChosen
      ? 'ring-2 ring-ink z-[1]'
      : isActive
        ? 'group-focus-visible:ring-2 group-focus-visible:ring-baton-wire z-[1]'
        : '';
  return (
    <div
      id={toElementId(block.key)}
      role="treeitem"
      aria-level={block.depth + 1}
      aria-selected={isChosen || undefined}
      aria-label={`${block.name} ${countOf(turns, 'turn')}: ${describeCounts(block.counts)}`}
      className={ring || undefined}
      style={{ left: toPercent(block.left), width: `calc(${toPercent(block.width)} - 2px)` }}
    >
      {!isThin && (
        <div>
          {block.name} {block.depth === 0 && <span className="ml-2 font-normal text-soft">{countOf(turns, 'turn')}</span>}
        </div>
      )}
      <BatonBar counts={block.counts} isDecoration />
    </div>
  );
}

function FoldButton({ isFolded, onFold }: { readonly isFolded: boolean; readonly onFold: (isFolded: boolean) => void }) {
  return (
    <button
      type="button"
      onClick={() => onFold(!isFolded)}
      aria-label={isFolded ? 'Show all rows of the strip' : 'Fold the strip to one row'}
      aria-expanded={!isFolded}
      className="absolute right-0 bottom-[-13px] z-10 mr-4 flex h-6 w-9 items-center justify-center rounded-b-[6px] border border-t-0 border-line bg-sheet"
    >
      <ChevronDown size={14} aria-hidden className={isFolded ? '' : 'rotate-180'} />
    </button>
  );
}
