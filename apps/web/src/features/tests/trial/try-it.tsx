import Play from 'lucide-react/icons/play';
import { lazy, Suspense, useState } from 'react';
import { useAddress } from '../../frame/address-context.tsx';
import type { EditorProps } from '../editor-props.ts';

/** What is not looked at is not fetched. */
const AskTrialDialog = lazy(() => import('./ask-trial-dialog.tsx'));

/** Has a runner do the steps as they stand; what comes of it stands at the address. */
export function TryIt({ test, draft }: Pick<EditorProps, 'test' | 'draft'>) {
  const address = useAddress();
  const [isAsked, setIsAsked] = useState(false);
  return (
    <>
      <button type="button" className="button ml-auto" onClick={() => setIsAsked(true)}>
        <Play size={17} aria-hidden /> Try it now
      </button>
      {isAsked && (
        <Suspense fallback={null}>
          <AskTrialDialog
            testId={test.id}
            draft={draft}
            onClose={() => setIsAsked(false)}
            onAsked={(id) => {
              setIsAsked(false);
              address.set({ trial: id });
            }}
          />
        </Suspense>
      )}
    </>
  );
}
