import { useCallback, useEffect, useRef, useState } from 'react';
import { isTyping } from './is-typing.ts';
import { useNotice } from './notices.tsx';
import { toMessage } from '../client/request.ts';

/** What takes edits back; known once the server has made them, null when it refused them. */
type Back<Edit> = Promise<readonly Edit[] | null>;

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

const MOST_REMEMBERED = 100;

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
      change(({ undos }) => ({ undos: [...undos.slice(1 - MOST_REMEMBERED), back], redos: [] }));
      if ((await back) !== null) return true;
      change(({ undos, redos }) => ({ undos: undos.filter((each) => each !== back), redos }));
      return false;
    },
    [send, change],
  );
  /** Takes the last edits of one stack back; what takes that back goes on the other. */
  const turn = useCallback(
    (from: 'undos' | 'redos', to: 'undos' | 'redos') =>
      change((now) => {
        const back = now[from].at(-1);
        if (!back) return now;
        const again = back.then((edits) => (edits === null ? null : send(edits)));
        return { ...now, [from]: now[from].slice(0, -1), [to]: [...now[to], again] };
      }),
    [change, send],
  );
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 'z' || isTyping(event.target)) return;
      event.preventDefault();
      if (event.shiftKey) turn('redos', 'undos');
      else turn('undos', 'redos');
    };
    addEventListener('keydown', onKey);
    return () => removeEventListener('keydown', onKey);
  }, [turn]);
  return {
    ...{ run, whenSettled },
    undo: stacks.undos.length > 0 ? () => turn('undos', 'redos') : null,
    redo: stacks.redos.length > 0 ? () => turn('redos', 'undos') : null,
  };
}

interface Stacks<Edit> {
  readonly undos: readonly Back<Edit>[];
  readonly redos: readonly Back<Edit>[];
}

/** Both stacks; a key that is pressed before the last change is drawn sees that change all the same. */
function useStacks<Edit>() {
  const [stacks, setStacks] = useState<Stacks<Edit>>({ undos: [], redos: [] });
  const now = useRef(stacks);
  const change = useCallback((decide: (stacks: Stacks<Edit>) => Stacks<Edit>) => {
    now.current = decide(now.current);
    setStacks(now.current);
  }, []);
  return { stacks, change };
}
