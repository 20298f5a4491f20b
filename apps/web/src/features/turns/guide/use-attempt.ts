import { listTopics } from '../../../client/stale.ts';
import { askAgain, useChanges } from '../../../client/use-changes.ts';
import type { AttemptView, Finished, GuideView, RecordStep } from '@kindred-baton/contracts/turns/turn';
import type { EvidenceId } from '@kindred-baton/core/ids';
import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useMemo, useReducer, useState } from 'react';
import { useNotice } from '../../../ui/notices.tsx';
import { useProgramme } from '../../frame/programme-context.tsx';
import type { StepWord } from './guide-state.ts';
import { createGuideState, reduceGuide } from './guide-state.ts';
import { openShelf } from './outbox-shelf.ts';
import { createOutbox } from './outbox.ts';

/** An attempt that is being made: its state, and its words on their way to the server. */
export function useAttempt(guide: GuideView, attempt: AttemptView) {
  const { api, viewer } = useProgramme();
  const notify = useNotice();
  const client = useQueryClient();
  const { change } = useChanges();
  const steps = useMemo(() => guide.version?.steps ?? [], [guide.version]);
  const [state, dispatch] = useReducer(reduceGuide, null, () => createGuideState(attempt, steps));
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
    outbox.listWaiting(attempt.id).then(
      (items) => {
        const words = items.flatMap((item) => (item.kind === 'step' ? [[item.stepIndex, toStepWord(item.word)] as const] : []));
        if (words.length > 0) dispatch({ kind: 'restore', words: Object.fromEntries(words) });
        // What waits goes out by itself; while the server is away that is shown as a count.
        outbox.flush().catch(() => undefined);
      },
      () =>
        notify({ kind: 'problem', text: 'What this browser still had to send cannot be read. Look through the steps before you go on.' }),
    );
  }, [outbox, attempt.id, notify]);

  const record = (stepIndex: number, word: StepWord) => {
    const { outcome, note, kept } = word;
    const isKeeping = steps[stepIndex]?.keepAs !== undefined;
    const recorded: RecordStep = {
      wordId: crypto.randomUUID(),
      outcome,
      note,
      at: new Date().toISOString(),
      ...(isKeeping ? { kept } : {}),
    };
    setRefusals(({ [stepIndex]: _, ...others }) => others);
    void outbox.put({ kind: 'step', api, attemptId: attempt.id, stepIndex, word: recorded });
  };
  const say = (stepIndex: number, word: StepWord) => {
    dispatch({ kind: 'said', index: stepIndex, word, steps: steps.length });
    record(stepIndex, word);
  };
  const attach = async (stepIndex: number, file: File) => {
    await outbox.put({ kind: 'evidence', api, attemptId: attempt.id, stepIndex, id: crypto.randomUUID() as EvidenceId, file });
    await outbox.flush();
    await askAgain(client, listTopics('keepEvidence'));
  };
  const dropPicture = async (id: string) => {
    await change('dropEvidence', { params: { evidence: id } });
  };
  const finish = async (): Promise<Finished> => {
    await outbox.flush();
    return change('finishAttempt', { params: { attempt: attempt.id } });
  };
  return { state, dispatch, steps, waiting, refusals, record, say, attach, dropPicture, finish, flush: outbox.flush };
}

export type AttemptRecorder = ReturnType<typeof useAttempt>;

function toStepWord(word: RecordStep): StepWord {
  return { outcome: word.outcome, note: word.note, kept: word.kept ?? '' };
}
