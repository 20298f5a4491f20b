import type { CoverProgress } from '@kindred-baton/core/rows/cover-rows';
import type { MadeRows, MakeRowsInput } from '@kindred-baton/core/rows/make-rows';
import { useEffect, useRef, useState } from 'react';
import type { RowsMessage } from './make-rows.worker.ts';

export type RowsWork =
  | { readonly state: 'idle' }
  | { readonly state: 'working'; readonly progress: CoverProgress | null }
  | { readonly state: 'done'; readonly made: MadeRows };

/** Rows from classes, made in a worker of their own, so that they can be shown and stopped. */
export function useMakeRows() {
  const worker = useRef<Worker | null>(null);
  const [work, setWork] = useState<RowsWork>({ state: 'idle' });
  const stop = () => {
    worker.current?.terminate();
    worker.current = null;
    setWork({ state: 'idle' });
  };
  const start = (input: MakeRowsInput) => {
    stop();
    setWork({ state: 'working', progress: null });
    const own = new Worker(new URL('./make-rows.worker.ts', import.meta.url), { type: 'module' });
    worker.current = own;
    own.addEventListener('message', ({ data }: MessageEvent<RowsMessage>) => {
      if (data.kind === 'progress') return setWork({ state: 'working', progress: data.progress });
      own.terminate();
      setWork({ state: 'done', made: data.made });
    });
    own.addEventListener('error', () =>
      setWork({ state: 'done', made: { ok: false, message: 'The rows could not be made in this browser.' } }),
    );
    own.postMessage(input);
  };
  useEffect(() => () => worker.current?.terminate(), []);
  return { work, start, stop };
}
