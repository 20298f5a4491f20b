import type { SliceInfo } from '@kindred-baton/contracts/boards/slice';
import type { Cut, SliceView } from '@kindred-baton/core/boards/slice';
import { getSliceViewLabel, isSameCut, readCut, toSliceAddress } from '@kindred-baton/core/boards/slice';
import Scissors from 'lucide-react/icons/scissors';
import { useState } from 'react';
import { useChanges } from '../../client/use-changes.ts';
import { useRead } from '../../client/use-read.ts';
import { MenuButton } from '../../ui/menus/menu-button.tsx';
import { useNotice } from '../../ui/notices.tsx';
import { useAddress } from '../frame/address-context.tsx';
import { useProgramme } from '../frame/programme-context.tsx';
import { KeepSliceDialog } from './keep-slice-dialog.tsx';

/** The cut of the view that is looked at; the cycles of a list of turns stand in its path. */
function useCut(view: SliceView): Cut {
  const { params, path } = useAddress();
  const cut = readCut(params);
  return view === 'turns' ? { ...cut, cycle: decodeURIComponent(path.split('/').at(-2) ?? '') } : cut;
}

/** The slices that there are, the one that is open, and what of it is gone or was changed. */
export function SliceBar({ view }: { readonly view: SliceView }) {
  const { base, viewer } = useProgramme();
  const address = useAddress();
  const cut = useCut(view);
  const { data: slices = [], error } = useRead('listSlices', {});
  const { act } = useChanges();
  const notify = useNotice();
  const [keeping, setKeeping] = useState<'new' | 'open' | null>(null);
  const asked = address.get('slice');
  const open = slices.find(({ id }) => id === asked);
  const isChanged = open !== undefined && (open.view !== view || !isSameCut(open.cut, cut));
  const mayChange = open !== undefined && (open.isMine || (open.isShared && viewer.rights.includes('run cycles')));
  const keepChange = async ({ id, name, isShared }: SliceInfo) =>
    act('changeSlice', { params: { slice: id }, input: { name, isShared, shows: { view, cut } } }, `“${name}” is now what you look at.`);
  const drop = async ({ id, name, isShared, view: own, cut: kept }: SliceInfo) => {
    if ((await act('dropSlice', { params: { slice: id } })) === undefined) return;
    address.set({ slice: null });
    const takeBack = () => void act('keepSlice', { input: { id, name, isShared, view: own, cut: kept } }, `“${name}” is kept again.`);
    notify({ kind: 'done', text: `“${name}” is dropped.`, action: { label: 'Take it back', run: takeBack } });
  };
  const choose = (key: string) => {
    if (key === 'new') setKeeping('new');
    if (!open) return;
    if (key === 'change') void keepChange(open);
    if (key === 'name') setKeeping('open');
    if (key === 'drop') void drop(open);
  };
  return (
    <>
      {asked !== null && <OpenSlice open={open} problem={error?.message ?? null} isChanged={isChanged} />}
      <MenuButton
        isSmall
        label="Slices"
        icon={<Scissors size={15} aria-hidden />}
        onChoose={choose}
        choices={[
          { key: 'new', name: 'Keep this as a slice …' },
          ...(isChanged && mayChange ? [{ key: 'change', name: `Keep the change in “${open.name}”` }] : []),
          ...(mayChange
            ? [
                { key: 'name', name: `Name “${open.name}” anew, or share it …` },
                { key: 'drop', name: `Drop “${open.name}”` },
              ]
            : []),
          ...slices.map((slice) => ({
            key: slice.id,
            name: toWord(slice),
            href: `${base}${toSliceAddress(slice.view, slice.cut, { slice: slice.id })}`,
          })),
        ]}
      />
      {keeping !== null && (
        <KeepSliceDialog view={view} cut={cut} slice={keeping === 'open' && open ? open : null} onClose={() => setKeeping(null)} />
      )}
    </>
  );
}

const toWord = ({ name, view, isMine, owner }: SliceInfo) => `${name} · ${getSliceViewLabel(view)}${isMine ? '' : `, by ${owner}`}`;

interface OpenSliceProps {
  readonly open: SliceInfo | undefined;
  readonly problem: string | null;
  readonly isChanged: boolean;
}

/** Which slice it is. What of it is gone is said: the figures are of more than what was kept. */
function OpenSlice({ open, problem, isChanged }: OpenSliceProps) {
  const { gone = [] } = open ?? {};
  return (
    <span className="text-[13px]" role="status">
      {open ? (
        <>
          Slice <b>{open.name}</b>
          {isChanged && gone.length === 0 && ', changed'}
          {gone.length > 0 && <b> · gone: {gone.join(', ')}; what is shown is wider than what was kept</b>}
        </>
      ) : (
        (problem ?? 'The slice of this address is gone, or is somebody’s own; what is shown is what the address says.')
      )}
    </span>
  );
}
