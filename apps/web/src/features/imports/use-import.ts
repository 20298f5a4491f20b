import type { ImportHead } from '@kindred-baton/contracts/imports/import';
import { useCallback, useRef, useState } from 'react';
import { sendForm, toMessage } from '../../ui/request.ts';

export interface Import<Preview> {
  readonly file: File | null;
  readonly preview: Preview | null;
  readonly problem: string | null;
  readonly isBusy: boolean;
  /** Looks at a file, or at the same one with other options. */
  readonly look: (file: File, options?: object) => void;
  /** Stores what was seen. */
  readonly accept: (options?: object) => void;
  readonly stop: () => void;
}

/** A file that is looked at first and then stored, all of it or nothing. What is under way can be stopped. */
export function useImport<Preview extends ImportHead>(path: string): Import<Preview> {
  const [file, setFile] = useState<File | null>(null);
  const [preview, setPreview] = useState<Preview | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [isBusy, setIsBusy] = useState(false);
  const turn = useRef(0);
  const send = useCallback(
    async (chosen: File, options: object) => {
      const mine = (turn.current += 1);
      setIsBusy(true);
      setProblem(null);
      const form = new FormData();
      form.set('file', chosen);
      form.set('options', JSON.stringify(options));
      try {
        const answer = await sendForm<Preview>(path, form);
        if (mine === turn.current) setPreview(answer);
      } catch (error) {
        if (mine === turn.current) setProblem(toMessage(error));
      } finally {
        if (mine === turn.current) setIsBusy(false);
      }
    },
    [path],
  );
  const look = (chosen: File, options: object = {}) => {
    if (chosen !== file) setPreview(null);
    setFile(chosen);
    void send(chosen, options);
  };
  const accept = (options: object = {}) => {
    if (file && preview) void send(file, { ...options, accept: preview.fingerprint });
  };
  const stop = () => {
    turn.current += 1;
    setIsBusy(false);
  };
  return { file, preview, problem, isBusy, look, accept, stop };
}
