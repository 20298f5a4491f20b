import type { Tile } from '@kindred-baton/contracts/boards/board';
import { getSliceViewLabel } from '@kindred-baton/core/boards/slice';
import type { TileKind, TileWidth } from '@kindred-baton/core/boards/tile';
import { getTileLabel, getTileView, getWidthLabel, TILE_KINDS, TILE_WIDTHS } from '@kindred-baton/core/boards/tile';
import type { SliceId } from '@kindred-baton/core/ids';
import { useState } from 'react';
import { useRead } from '../../client/use-read.ts';
import { DialogBox } from '../../ui/dialog.tsx';
import { SelectField } from '../../ui/field.tsx';

interface AddTileDialogProps {
  readonly onAdd: (tile: Tile) => void;
  readonly onClose: () => void;
}

/** Turns are of a slice: the list of no cycle in particular is none. */
const needsSlice = (kind: TileKind) => getTileView(kind) === 'turns';

/** What it shows, of which slice, how wide. */
export function AddTileDialog({ onAdd, onClose }: AddTileDialogProps) {
  const { data: slices = [], error } = useRead('listSlices', {});
  const [shows, setShows] = useState<TileKind>('figures');
  const fitting = slices.filter(({ view }) => view === getTileView(shows));
  const [sliceId, setSliceId] = useState('');
  const chosen = fitting.some(({ id }) => id === sliceId) ? sliceId : needsSlice(shows) ? (fitting[0]?.id ?? '') : '';
  const [width, setWidth] = useState<TileWidth>('half');
  return (
    <DialogBox title="Add a tile" isOpen onClose={onClose}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          onAdd({ id: crypto.randomUUID(), shows, sliceId: chosen === '' ? null : (chosen as SliceId), width });
        }}
      >
        <SelectField label="It shows" name="shows" value={shows} onChange={({ target }) => setShows(target.value as TileKind)}>
          {TILE_KINDS.map((kind) => (
            <option key={kind} value={kind}>
              {getTileLabel(kind)}
            </option>
          ))}
        </SelectField>
        <SelectField
          label="Of"
          name="slice"
          value={chosen}
          onChange={({ target }) => setSliceId(target.value)}
          problem={error?.message}
          hint={`Slices of “${getSliceViewLabel(getTileView(shows))}”; keep more of them there, under Slices.`}
        >
          {!needsSlice(shows) && <option value="">The current cycle, all of it</option>}
          {fitting.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </SelectField>
        <SelectField label="Width" name="width" value={width} onChange={({ target }) => setWidth(target.value as TileWidth)}>
          {TILE_WIDTHS.map((each) => (
            <option key={each} value={each}>
              {getWidthLabel(each)}
            </option>
          ))}
        </SelectField>
        {needsSlice(shows) && fitting.length === 0 && <p className="mb-3">No list of turns is kept as a slice yet.</p>}
        <p className="flex justify-end gap-2">
          <button type="button" className="button" onClick={onClose}>
            Cancel
          </button>
          <button type="submit" className="button button-primary" disabled={needsSlice(shows) && chosen === ''}>
            Add it
          </button>
        </p>
      </form>
    </DialogBox>
  );
}
