import { useEffect, useState } from 'react';
import { DialogBox } from '../../ui/dialog.tsx';
import { isTyping } from '../../ui/is-typing.ts';

export interface KeyHelp {
  readonly keys: string;
  readonly does: string;
}

const EVERYWHERE: readonly KeyHelp[] = [
  { keys: 'Ctrl K', does: 'Find a node, test, scenario, turn, cycle or defect' },
  { keys: '?', does: 'Show these keys' },
  { keys: '← → ↑ ↓', does: 'Walk the strip, once it has the focus; Enter scopes, Esc widens' },
];

/** The keys of this view, by `?`. */
export function KeysDialog({ keys }: { readonly keys: readonly KeyHelp[] }) {
  const [isOpen, setIsOpen] = useState(false);
  useEffect(() => {
    const open = (event: KeyboardEvent) => {
      if (event.key === '?' && !isTyping(event.target)) setIsOpen(true);
    };
    addEventListener('keydown', open);
    return () => removeEventListener('keydown', open);
  }, []);
  return (
    <DialogBox title="Keys of this view" isOpen={isOpen} onClose={() => setIsOpen(false)}>
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
