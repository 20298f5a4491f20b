import { useCallback } from 'react';
import { useNotice } from './notices.tsx';

/** Puts a text into the clipboard and says so, or what to do where the browser does not let it. */
export function useCopy(): (text: string, done?: string) => Promise<void> {
  const notify = useNotice();
  return useCallback(
    (text, done = 'Copied.') =>
      // Where a page is not safe there is no clipboard at all.
      Promise.resolve()
        .then(() => navigator.clipboard.writeText(text))
        .then(
          () => notify({ kind: 'done', text: done }),
          () => notify({ kind: 'problem', text: 'This browser does not let it be copied; mark it and copy it by hand.' }),
        ),
    [notify],
  );
}
