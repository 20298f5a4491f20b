import { leaveTo } from '../../client/leave-to.ts';
import { listTopics } from '../../client/stale.ts';
import { askAgain } from '../../client/use-changes.ts';
import { call } from '../../client/call.ts';
import type { TestDetail, TestVersionView } from '@kindred-baton/contracts/tests/test';
import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { useNotice } from '../../ui/notices.tsx';
import { RequestError, toMessage } from '../../client/request.ts';
import { useProgramme } from '../frame/programme-context.tsx';
import type { DraftEvent, TestDraft } from './test-draft.ts';
import { toSaveTest } from './test-draft.ts';

const QUIET_MS = 1_200;
const RETRY_MS = 5_000;

export interface Saving {
  readonly isBusy: boolean;
  /** Whether there is a draft; an agreed version begins one by being saved. */
  readonly isDraft: boolean;
  readonly conflict: TestVersionView | null;
  readonly problems: RequestError['problems'];
  /** Why the last save did not go through; it is tried again. */
  readonly refusal: string | null;
  readonly save: () => Promise<void>;
  readonly agree: () => Promise<void>;
  readonly discard: () => Promise<void>;
  readonly forgetConflict: () => void;
}

/** A draft saves itself when nobody types; refusals stand where they belong, and what was typed stays. */
export function useSaving(test: TestDetail, draft: TestDraft, dispatch: (event: DraftEvent) => void): Saving {
  const { api } = useProgramme();
  const notify = useNotice();
  const client = useQueryClient();
  const [isBusy, setIsBusy] = useState(false);
  const [isDraft, setIsDraft] = useState(test.version.state === 'draft');
  const [conflict, setConflict] = useState<TestVersionView | null>(null);
  const [problems, setProblems] = useState<RequestError['problems']>([]);
  const [refusal, setRefusal] = useState<string | null>(null);
  const isSending = useRef(false);
  const params = { code: test.code };
  const attempt = async (send: () => Promise<void>) => {
    if (isSending.current) return;
    isSending.current = true;
    setIsBusy(true);
    try {
      await send();
      setProblems([]);
      setRefusal(null);
      await askAgain(client, listTopics('saveTest'));
    } catch (error) {
      const theirs =
        error instanceof RequestError && error.code === 'conflict'
          ? (error.details as { theirs?: TestVersionView } | null)?.theirs
          : undefined;
      if (theirs) setConflict(theirs);
      else setRefusal(toMessage(error));
      if (error instanceof RequestError) setProblems(error.problems);
    } finally {
      isSending.current = false;
      setIsBusy(false);
    }
  };
  const save = () =>
    attempt(async () => {
      const saved = await call(api, 'saveTest', { params, input: toSaveTest(draft) });
      dispatch({ kind: 'saved', base: saved, edits: draft.edits });
      if (!isDraft) notify({ kind: 'done', text: `Version ${saved.number} is saved as a draft.` });
      setIsDraft(true);
    });
  const leave = (send: () => Promise<unknown>) =>
    attempt(async () => {
      await send();
      leaveTo(location.pathname);
    });
  useEffect(() => {
    if (!isDraft || !draft.isChanged || isBusy || conflict) return undefined;
    const timer = setTimeout(() => void save(), refusal === null ? QUIET_MS : RETRY_MS);
    return () => clearTimeout(timer);
  });
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || event.key !== 's') return;
      event.preventDefault();
      if (draft.isChanged) void save();
    };
    const onLeave = (event: BeforeUnloadEvent) => draft.isChanged && event.preventDefault();
    addEventListener('keydown', onKey);
    addEventListener('beforeunload', onLeave);
    return () => {
      removeEventListener('keydown', onKey);
      removeEventListener('beforeunload', onLeave);
    };
  });
  return {
    ...{ isBusy, isDraft, conflict, problems, refusal, save },
    agree: () => leave(() => call(api, 'agreeTest', { params, input: draft.base })),
    discard: () => leave(() => call(api, 'discardDraft', { params, input: draft.base })),
    forgetConflict: () => {
      setIsDraft((before) => before || conflict?.state === 'draft');
      setConflict(null);
    },
  };
}
