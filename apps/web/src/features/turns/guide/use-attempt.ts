import { listTopics } from '../../../client/stale.ts';
import { askAgain, useChanges } from '../../../client/use-changes.ts';
import type { AttemptView, Finished, GuideView, RecordStep } from '@kindred-baton/contracts/turns/turn';
import type { EvidenceId } from '@kindred-baton/core/ids';
import { checkValue } from '@kindred-baton/core/values/check-value';
import type { Field } from '@kindred-baton/core/values/field';
import { toNameKey } from '@kindred-baton/core/values/field';
import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useMemo, useReducer } from 'react';
import { useDebouncedCallback } from 'use-debounce';
import { useProgramme } from '../../frame/programme-context.tsx';
import type { StepWord } from './guide-state.ts';
import { createGuideState, getWord, reduceGuide } from './guide-state.ts';
import { useOutbox } from './use-outbox.ts';

/** What is typed is recorded after so long a rest; leaving the field is not needed. */
const REST_MS = 700;

/** An attempt that is being made: its state, and its words on their way to the server. */
export function useAttempt(guide: GuideView, attempt: AttemptView) {
  const { api } = useProgramme();
  const client = useQueryClient();
  const { change } = useChanges();
  const steps = useMemo(() => guide.version?.steps ?? [], [guide.version]);
  const [state, dispatch] = useReducer(reduceGuide, null, () => createGuideState(attempt, steps));
  const { outbox, waiting, refusals, forget } = useOutbox(attempt.id, dispatch);
  const findKeepField = (stepIndex: number): Field | null => {
    const name = steps[stepIndex]?.keepAs;
    if (name === undefined) return null;
    const gives = guide.version?.gives ?? [];
    return gives.find((field) => toNameKey(field.name) === toNameKey(name)) ?? { name, type: 'text', required: true };
  };
  const record = (stepIndex: number, word: StepWord) => {
    const { outcome, note, kept } = word;
    const field = findKeepField(stepIndex);
    const check = field && checkValue(field, kept);
    const recorded: RecordStep = {
      wordId: crypto.randomUUID(),
      outcome,
      note,
      at: new Date().toISOString(),
      ...(check ? { kept: check.ok ? check.value : '' } : {}),
    };
    forget(stepIndex);
    void outbox.put({ kind: 'step', api, attemptId: attempt.id, stepIndex, word: recorded });
  };
  /** A value that is half typed yet does not undo a step that passed. */
  const recordTyped = useDebouncedCallback((stepIndex: number, word: StepWord) => {
    const field = findKeepField(stepIndex);
    if (word.outcome !== 'passed' || !field || checkValue(field, word.kept).ok) record(stepIndex, word);
  }, REST_MS);
  useEffect(() => () => recordTyped.flush(), [recordTyped, state.index]);
  useEffect(() => {
    const onHide = () => recordTyped.flush();
    window.addEventListener('pagehide', onHide);
    return () => window.removeEventListener('pagehide', onHide);
  }, [recordTyped]);
  const type = (stepIndex: number, part: Partial<Pick<StepWord, 'note' | 'kept'>>) => {
    dispatch({ kind: 'change', index: stepIndex, word: part });
    recordTyped(stepIndex, { ...getWord(state, stepIndex), ...part });
  };
  const say = (stepIndex: number, word: StepWord) => {
    recordTyped.cancel();
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
    recordTyped.flush();
    await outbox.flush();
    return change('finishAttempt', { params: { attempt: attempt.id } });
  };
  return { state, dispatch, steps, waiting, refusals, findKeepField, type, say, attach, dropPicture, finish, flush: outbox.flush };
}

export type AttemptRecorder = ReturnType<typeof useAttempt>;
