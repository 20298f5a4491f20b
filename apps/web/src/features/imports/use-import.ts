import type { ImportHead } from '@kindred-baton/contracts/imports/import';
import { useCallback, useRef, useState } from 'react';
import { sendForm, toMessage } from '../../client/request.ts';

export interface Import<Preview> {
  readonly file: File | null;
  readonly preview: Preview | null;
  readonly problem: string | null;
  readonly isBusy: boolean;
  /** Looks at a file, or at the same one with other options. */
  readonly look: (file: File, options?: object) => void;
  /** A second file that belongs to the first, or none any more. */
  readonly more: File | null;
  readonly lookWith: (more: File | null, options?: object) => void;
  /** Stores what was seen. */
  readonly accept: (options?: object) => void;
  readonly stop: () => void;
}

/** A file that is looked at first and then stored, all of it or nothing. What is under way can be stopped. */
export function useImport<Preview extends ImportHead>(path: string): Import<Preview> {
  const [file, setFile] = useState<File | null>(null);
  const [more, setMore] = useState<File | null>(null);
  const [preview, setPreview] = useState<Preview | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [isBusy, setIsBusy] = useState(false);
  const turn = useRef(0);
  const send = useCallback(
    async (chosen: File, second: File | null, options: object) => {
      const mine = (turn.current += 1);
      setIsBusy(true);
      setProblem(null);
      const form = new FormData();
      form.set('file', chosen);
      if (second) form.set('more', second);
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
    const isOther = chosen !== file;
    if (isOther) setPreview(null);
    if (isOther) setMore(null);
    setFile(chosen);
    void send(chosen, isOther ? null : more, options);
  };
  const accept = (options: object = {}) => {
    if (file && preview) void send(file, more, { ...options, accept: preview.fingerprint });
  };
  const lookWith = (second: File | null, options: object = {}) => {
    setMore(second);
    if (file) void send(file, second, options);
  };
  const stop = () => {
    turn.current += 1;
    setIsBusy(false);
  };
  return { file, more, preview, problem, isBusy, look, lookWith, accept, stop };
}
