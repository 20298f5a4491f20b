import type { BoardView, TileView } from '@kindred-baton/contracts/boards/board';
import type { TileWidth } from '@kindred-baton/core/boards/tile';
import { getSixths, getTileLabel, getWidthLabel, MOST_TILES, TILE_WIDTHS } from '@kindred-baton/core/boards/tile';
import GripVertical from 'lucide-react/icons/grip-vertical';
import Trash2 from 'lucide-react/icons/trash-2';
import { useRef, useState } from 'react';
import type { Key } from 'react-aria-components';
import { Button, DropIndicator, GridList, GridListItem, useDragAndDrop } from 'react-aria-components';
import { useChanges } from '../../client/use-changes.ts';
import { countOf } from '../../ui/format.ts';
import { AddTileDialog } from './add-tile-dialog.tsx';
import { getTileName } from './tile-frame.tsx';
import { toKept } from './to-kept.ts';

/** The tiles without what they show: dragged into another order, by mouse or keys; made wider; added and taken away. Each change is kept at once. */
export function ArrangeBoard({ board }: { readonly board: BoardView }) {
  const { next, keep } = useKeeping(board);
  const [isAdding, setIsAdding] = useState(false);
  const tiles = next ?? board.tiles;
  const { dragAndDropHooks } = useDragAndDrop({
    getItems: (keys) => [...keys].map((key) => ({ 'text/plain': nameOf(tiles, key) })),
    onReorder: ({ keys, target }) => keep(move(tiles, keys, target)),
    renderDropIndicator: (target) => (
      <DropIndicator target={target} className="h-0 outline-none data-[drop-target]:outline-2 data-[drop-target]:outline-baton" />
    ),
  });
  const isFull = tiles.length >= MOST_TILES;
  return (
    <>
      <p className="mb-3 flex flex-wrap items-center gap-3 text-soft">
        {isFull
          ? `A board has at most ${MOST_TILES} tiles: make another for the rest.`
          : `${countOf(tiles.length, 'tile')}, in the order in which they stand. Drag one by its grip; by keys: Enter on the grip, the arrows, Enter.`}
        <button type="button" className="button button-primary ml-auto" disabled={isFull} onClick={() => setIsAdding(true)}>
          Add a tile
        </button>
      </p>
      <GridList
        aria-label="Tiles"
        items={tiles}
        dependencies={[tiles]}
        dragAndDropHooks={dragAndDropHooks}
        className="card divide-y divide-line-2"
        renderEmptyState={() => <p className="px-4 py-8 text-center text-soft">Nothing here yet: add the first tile.</p>}
      >
        {(tile) => (
          <TileLine
            tile={tile}
            onWiden={(width) => keep(tiles.map((own) => (own.id === tile.id ? { ...own, width } : own)))}
            onTakeAway={() => keep(tiles.filter(({ id }) => id !== tile.id))}
          />
        )}
      </GridList>
      {isAdding && (
        <AddTileDialog
          onClose={() => setIsAdding(false)}
          onAdd={(tile) => {
            setIsAdding(false);
            keep([...tiles, { ...tile, slice: null, isGone: false }]);
          }}
        />
      )}
    </>
  );
}

/** Changes are kept one after the other, each upon the one before, however fast they come; shown at once. */
function useKeeping(board: BoardView) {
  const { act } = useChanges();
  /** As it will be, until all is kept. */
  const [next, setNext] = useState<readonly TileView[] | null>(null);
  const line = useRef({ last: Promise.resolve(), waiting: 0, version: 0 });
  const send = async (wanted: readonly TileView[]) => {
    const own = line.current;
    const kept = toKept({ ...board, tiles: [...wanted], version: Math.max(own.version, board.version) });
    const done = await act('changeBoard', { params: { board: board.id }, input: kept });
    if (done) own.version = done.version;
    own.waiting -= 1;
    if (own.waiting === 0) setNext(null);
  };
  const keep = (wanted: readonly TileView[]): void => {
    setNext(wanted);
    line.current.waiting += 1;
    line.current.last = line.current.last.then(() => send(wanted));
  };
  return { next, keep };
}

interface TileLineProps {
  readonly tile: TileView;
  readonly onWiden: (width: TileWidth) => void;
  readonly onTakeAway: () => void;
}

function TileLine({ tile, onWiden, onTakeAway }: TileLineProps) {
  const name = getTileName(tile);
  return (
    <GridListItem
      id={tile.id}
      textValue={name}
      className="flex flex-wrap items-center gap-3 px-3 py-2 data-[dragging]:opacity-50 data-[focus-visible]:bg-band"
    >
      <Button slot="drag" className="button button-quiet button-small cursor-grab px-1!" aria-label={`Move ${name}`}>
        <GripVertical size={17} aria-hidden />
      </Button>
      <span className="h-3.5 w-[60px] flex-none rounded-[3px] border border-line" aria-hidden>
        <span className="block h-full rounded-[2px] bg-soft" style={{ width: `${(100 * getSixths(tile.width)) / 6}%` }} />
      </span>
      <span className="min-w-0 flex-1">
        <b className="block break-words">{name}</b>
        <span className="text-[13px] text-soft">
          {tile.slice ? getTileLabel(tile.shows) : tile.isGone ? 'Take it away, or add it of another slice' : 'Of the current cycle'}
        </span>
      </span>
      <label className="flex items-center gap-2 text-[13px]">
        Width
        <select
          className="field min-h-[26px] w-auto py-0!"
          value={tile.width}
          onKeyDown={(event) => event.stopPropagation()}
          onChange={({ target }) => onWiden(target.value as TileWidth)}
        >
          {TILE_WIDTHS.map((width) => (
            <option key={width} value={width}>
              {getWidthLabel(width)}
            </option>
          ))}
        </select>
      </label>
      <Button className="button button-quiet button-small px-1.5!" aria-label={`Take ${name} away`} onPress={onTakeAway}>
        <Trash2 size={16} aria-hidden />
      </Button>
    </GridListItem>
  );
}

const nameOf = (tiles: readonly TileView[], key: Key) => {
  const tile = tiles.find(({ id }) => id === key);
  return tile ? getTileName(tile) : '';
};

interface Target {
  readonly key: Key;
  readonly dropPosition: 'before' | 'after' | 'on';
}

/** What was dragged goes before or behind what it was dropped at. */
function move(tiles: readonly TileView[], keys: ReadonlySet<Key>, { key, dropPosition }: Target): TileView[] {
  const moved = tiles.filter(({ id }) => keys.has(id));
  const rest = tiles.filter(({ id }) => !keys.has(id));
  const at = rest.findIndex(({ id }) => id === key) + (dropPosition === 'after' ? 1 : 0);
  return [...rest.slice(0, at), ...moved, ...rest.slice(at)];
}
