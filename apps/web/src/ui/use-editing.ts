import { useCallback, useEffect, useRef, useState } from 'react';
import type { Back, Stacks } from './edit-stacks.ts';
import { EMPTY_STACKS, forget, remember, turnBack } from './edit-stacks.ts';
import { isTyping } from './is-typing.ts';
import { useNotice } from './notices.tsx';
import { toMessage } from '../client/request.ts';

interface EditingParts<Edit> {
  /** Shows the edits at once; a sentence when they cannot be made. */
  readonly show: (edits: readonly Edit[]) => string | null;
  /** Sends them; what undoes them comes back. */
  readonly send: (edits: readonly Edit[]) => Promise<{ readonly undo: readonly Edit[] }>;
  /** Asks again for what is shown, after an edit was made or refused. */
  readonly ask: () => void;
}

export interface Editing<Edit> {
  /** Shows the edits at once and sends them; false when they cannot be made, which is told. */
  readonly run: (edits: readonly Edit[]) => Promise<boolean>;
  readonly undo: (() => void) | null;
  readonly redo: (() => void) | null;
  /** Resolves when every edit has reached the server: before that it knows less than is shown. */
  readonly whenSettled: () => Promise<void>;
}

/** Edits: at once on the screen, one after the other on the server, back when refused; with undo and redo, also by Ctrl Z. */
export function useEditing<Edit>({ show, send: sendOut, ask }: EditingParts<Edit>): Editing<Edit> {
  const notify = useNotice();
  const { stacks, change } = useStacks<Edit>();
  const last = useRef<Promise<unknown>>(Promise.resolve());
  const send = useCallback(
    async (edits: readonly Edit[]): Back<Edit> => {
      const problem = show(edits);
      if (problem !== null) {
        notify({ kind: 'problem', text: problem });
        return null;
      }
      const answer = last.current.then(() => sendOut(edits));
      last.current = answer.catch(() => undefined);
      try {
        return (await answer).undo;
      } catch (error) {
        notify({ kind: 'problem', text: toMessage(error) });
        return null;
      } finally {
        // Not waited for: taking the edit back needs the answer alone, and a page that others change asks again and again.
        ask();
      }
    },
    [show, sendOut, ask, notify],
  );
  const whenSettled = useCallback(async () => {
    for (let seen: unknown = null; seen !== last.current;) {
      seen = last.current;
      await last.current;
    }
  }, []);
  const run = useCallback(
    async (edits: readonly Edit[]) => {
      const back = send(edits);
      change((stacks) => remember(stacks, back));
      if ((await back) !== null) return true;
      change((stacks) => forget(stacks, back));
      return false;
    },
    [send, change],
  );
  /** Takes the last edits of one stack back; what takes that back goes on the other. */
  const turn = useCallback(
    (from: 'undos' | 'redos') =>
      change((now) => {
        return turnBack(now, from, (back) => back.then((edits) => (edits === null ? null : send(edits))));
      }),
    [change, send],
  );
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 'z' || isTyping(event.target)) return;
      event.preventDefault();
      if (event.shiftKey) turn('redos');
      else turn('undos');
    };
    addEventListener('keydown', onKey);
    return () => removeEventListener('keydown', onKey);
  }, [turn]);
  return {
    ...{ run, whenSettled },
    undo: stacks.undos.length > 0 ? () => turn('undos') : null,
    redo: stacks.redos.length > 0 ? () => turn('redos') : null,
  };
}

/** Both stacks; a key that is pressed before the last change is drawn sees that change all the same. */
function useStacks<Edit>() {
  const [stacks, setStacks] = useState<Stacks<Edit>>(EMPTY_STACKS);
  const now = useRef(stacks);
  const change = useCallback((decide: (stacks: Stacks<Edit>) => Stacks<Edit>) => {
    now.current = decide(now.current);
    setStacks(now.current);
  }, []);
  return { stacks, change };
}
