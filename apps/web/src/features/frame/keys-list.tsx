import { DialogBox } from '../../ui/dialog.tsx';
import type { KeyHelp } from './keys-dialog.tsx';

const EVERYWHERE: readonly KeyHelp[] = [
  { keys: 'Ctrl K', does: 'Find a node, test, scenario, turn, cycle or defect' },
  { keys: '?', does: 'Show these keys' },
  { keys: '← → ↑ ↓', does: 'Walk the strip, once it has the focus; Enter scopes, Esc widens' },
];

/** The keys of a view, and those that hold everywhere. */
export default function KeysList({ keys, onClose }: { readonly keys: readonly KeyHelp[]; readonly onClose: () => void }) {
  return (
    <DialogBox title="Keys of this view" isOpen onClose={onClose}>
      <dl className="grid grid-cols-[max-content_1fr] gap-x-6 gap-y-2">
        {[...keys, ...EVERYWHERE].map(({ keys: combination, does }) => (
          <div key={combination} className="contents">
            <dt className="font-mono font-semibold">{combination}</dt>
            <dd>{does}</dd>
          </div>
        ))}
      </dl>
    </DialogBox>
  );
}
