import { leaveTo } from '../../client/leave-to.ts';
import { listTopics } from '../../client/stale.ts';
import { askAgain } from '../../client/use-changes.ts';
import type { Output } from '../../client/call.ts';
import { call } from '../../client/call.ts';
import type { TestDetail, TestVersionView } from '@kindred-baton/contracts/tests/test';
import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useLayoutEffect, useRef, useState } from 'react';
import { flushSync } from 'react-dom';
import { useNotice } from '../../ui/notices.tsx';
import { RequestError, toMessage } from '../../client/request.ts';
import { useProgramme } from '../frame/programme-context.tsx';
import type { DraftEvent, TestDraft } from './test-draft.ts';
import { toSaveTest } from './test-draft.ts';

const QUIET_MS = 1_200;
const RETRY_MS = 5_000;

export type BrokenScenario = Output<'getChangeReview'>['scenarios'][number];

export interface Saving {
  readonly isBusy: boolean;
  /** Whether there is a draft; an agreed version begins one by being saved. */
  readonly isDraft: boolean;
  readonly conflict: TestVersionView | null;
  readonly problems: RequestError['problems'];
  /** Why the last save did not go through; it is tried again. */
  readonly refusal: string | null;
  readonly save: () => Promise<void>;
  /** Saves first what is not saved yet. Where scenarios would break it asks before, unless it was asked. */
  readonly agree: (isAsked?: boolean) => Promise<void>;
  /** The scenarios that the version to be agreed would break; null: nothing is asked. */
  readonly broken: readonly BrokenScenario[] | null;
  readonly forgetBroken: () => void;
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
  const [broken, setBroken] = useState<readonly BrokenScenario[] | null>(null);
  const inFlight = useRef<Promise<void> | null>(null);
  const latest = useRef(draft);
  useLayoutEffect(() => {
    latest.current = draft;
  });
  const params = { code: test.code };
  const tryIt = async (send: () => Promise<void>) => {
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
      inFlight.current = null;
      setIsBusy(false);
    }
  };
  const attempt = (send: () => Promise<void>) => (inFlight.current ??= tryIt(send));
  const store = async () => {
    const now = latest.current;
    const saved = await call(api, 'saveTest', { params, input: toSaveTest(now) });
    flushSync(() => dispatch({ kind: 'saved', base: saved, edits: now.edits }));
    if (!isDraft) notify({ kind: 'done', text: `Version ${saved.number} is saved as a draft.` });
    setIsDraft(true);
  };
  const save = () => attempt(store);
  /** What was pressed while a save is on its way is done after it. */
  const follow = async (send: () => Promise<void>) => {
    await inFlight.current;
    await attempt(send);
  };
  const agree = (isAsked = false) =>
    follow(async () => {
      if (latest.current.isChanged) await store();
      const { base } = latest.current;
      const ends = isAsked || base.number === 1 ? [] : await listBroken(api, test.code);
      setBroken(ends.length > 0 ? ends : null);
      if (ends.length > 0) return;
      await call(api, 'agreeTest', { params, input: base });
      leaveTo(location.pathname);
    });
  const discard = () =>
    follow(async () => {
      await call(api, 'discardDraft', { params, input: latest.current.base });
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
    ...{ isBusy, isDraft, conflict, problems, refusal, broken, save, agree, discard },
    forgetBroken: () => setBroken(null),
    forgetConflict: () => {
      setIsDraft((before) => before || conflict?.state === 'draft');
      setConflict(null);
    },
  };
}

/** The scenarios that would not hold with the draft in the place of the version that they use. */
async function listBroken(api: string, test: string): Promise<BrokenScenario[]> {
  const { scenarios } = await call(api, 'getChangeReview', { input: { test } });
  return scenarios.filter(({ verdict, isTaken }) => verdict === 'breaks' && !isTaken);
}
