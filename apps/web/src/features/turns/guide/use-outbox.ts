import type { RecordStep } from '@kindred-baton/contracts/turns/turn';
import type { AttemptId } from '@kindred-baton/core/ids';
import type { Dispatch } from 'react';
import { useEffect, useMemo, useState } from 'react';
import { useNotice } from '../../../ui/notices.tsx';
import { useProgramme } from '../../frame/programme-context.tsx';
import type { GuideEvent, StepWord } from './guide-state.ts';
import { openShelf } from './outbox-shelf.ts';
import type { OutboxItem } from './outbox.ts';
import { createOutbox } from './outbox.ts';

/** The outbox of this browser, as an attempt sees it: how much waits, and what the server refused at which step. */
export function useOutbox(attemptId: AttemptId, dispatch: Dispatch<GuideEvent>) {
  const { viewer } = useProgramme();
  const notify = useNotice();
  const [waiting, setWaiting] = useState(0);
  const [refusals, setRefusals] = useState<Readonly<Record<number, string>>>({});
  const outbox = useMemo(
    () =>
      createOutbox({
        shelf: openShelf(viewer.person.id),
        onWaiting: setWaiting,
        onRefused: ({ stepIndex }, error) => {
          setRefusals((all) => ({ ...all, [stepIndex]: error.message }));
          notify({ kind: 'problem', text: `Step ${stepIndex + 1}: ${error.message}` });
        },
        onUnkept: ({ stepIndex }) =>
          notify({ kind: 'problem', text: `Step ${stepIndex + 1} is not kept in this browser. Leave this page open until it is sent.` }),
      }),
    [viewer.person.id, notify],
  );
  useEffect(() => {
    const restore = (items: readonly OutboxItem[]) => {
      const words = items.flatMap((item) => (item.kind === 'step' ? [[item.stepIndex, toStepWord(item.word)] as const] : []));
      if (words.length > 0) dispatch({ kind: 'restore', words: Object.fromEntries(words) });
    };
    // What was refused before this page was opened is shown where it belongs, with its words.
    outbox.listRefused(attemptId).then(
      (items) => {
        restore(items.map(({ item }) => item));
        setRefusals((all) => ({ ...Object.fromEntries(items.map(({ item, why }) => [item.stepIndex, why])), ...all }));
      },
      () => undefined,
    );
    outbox.listWaiting(attemptId).then(
      (items) => {
        restore(items);
        // What waits goes out by itself; while the server is away that is shown as a count.
        outbox.flush().catch(() => undefined);
      },
      () =>
        notify({ kind: 'problem', text: 'What this browser still had to send cannot be read. Look through the steps before you go on.' }),
    );
  }, [outbox, attemptId, dispatch, notify]);
  /** The step is said anew. */
  const forget = (stepIndex: number) => {
    if (refusals[stepIndex] === undefined) return;
    setRefusals(({ [stepIndex]: _, ...others }) => others);
    outbox.forgetRefused(attemptId, stepIndex).catch(() => undefined);
  };
  return { outbox, waiting, refusals, forget };
}

function toStepWord(word: RecordStep): StepWord {
  return { outcome: word.outcome, note: word.note, kept: word.kept ?? '' };
}
