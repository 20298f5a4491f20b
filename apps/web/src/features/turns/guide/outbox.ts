import type { RecordStep } from '@kindred-baton/contracts/turns/turn';
import type { AttemptId, EvidenceId } from '@kindred-baton/core/ids';
import { call } from '../../../client/call.ts';
import { RequestError } from '../../../client/request.ts';
import type { OutboxShelf } from './outbox-shelf.ts';

/** What a tester recorded waits here, in the browser, until the server has it: a dead network or a restart loses nothing. */
export type OutboxItem =
  | { readonly kind: 'step'; readonly api: string; readonly attemptId: AttemptId; readonly stepIndex: number; readonly word: RecordStep }
  | {
      readonly kind: 'evidence';
      readonly api: string;
      readonly attemptId: AttemptId;
      readonly stepIndex: number;
      readonly id: EvidenceId;
      readonly file: File;
    };

interface RefusedItem {
  readonly item: OutboxItem;
  readonly why: string;
}

export interface Outbox {
  /** Resolves once it lies somewhere from where it is sent. */
  readonly put: (item: OutboxItem) => Promise<void>;
  /** Sends all that waits, in order; resolves when nothing is left, rejects with the first refusal or when the server is away. */
  readonly flush: () => Promise<void>;
  readonly listWaiting: (attemptId: AttemptId) => Promise<OutboxItem[]>;
  /** What the server refused for good, with the reason; it stays until the step is said anew. */
  readonly listRefused: (attemptId: AttemptId) => Promise<RefusedItem[]>;
  readonly forgetRefused: (attemptId: AttemptId, stepIndex: number) => Promise<void>;
}

export interface OutboxParts {
  readonly shelf: OutboxShelf;
  readonly send?: (item: OutboxItem) => Promise<unknown>;
  readonly onWaiting: (count: number) => void;
  /** The server refused it for good: it is set aside and told, and the rest goes on. */
  readonly onRefused: (item: OutboxItem, error: RequestError) => void;
  /** This browser keeps nothing just now: it is sent all the same, but leaving the page before would lose it. */
  readonly onUnkept: (item: OutboxItem) => void;
  readonly retryMs?: number;
}

const RETRY_MS = 3_000;
/** So often the server may break over one item before that item is set aside, since it may be the item that breaks it. */
const MOST_BREAKS = 3;

export function createOutbox({ shelf, send = post, onWaiting, onRefused, onUnkept, retryMs = RETRY_MS }: OutboxParts): Outbox {
  /** What the shelf did not take, in order. While anything lies here, what comes after it lies behind it. */
  const unkept: OutboxItem[] = [];
  const breaks = new Map<string, number>();
  let running: Promise<void> | undefined;
  let timer: ReturnType<typeof setTimeout> | undefined;

  const listAll = async () => {
    const kept = await shelf.list().catch((error: unknown) => {
      if (unkept.length > 0) return [];
      throw error;
    });
    const lying = unkept.map((item) => {
      const drop = () => Promise.resolve(void unkept.splice(unkept.indexOf(item), 1));
      return { item, drop, setAside: drop };
    });
    const onShelf = kept.filter(({ refused }) => refused === null);
    return [
      ...onShelf.map(({ key, item }) => ({ item, drop: () => shelf.remove(key), setAside: (why: string) => shelf.setAside(key, why) })),
      ...lying,
    ];
  };

  /** Refused for good, or the server broke over it again and again. */
  const isGivenUp = (item: OutboxItem, error: unknown): error is RequestError => {
    if (isFinal(error)) return true;
    if (!(error instanceof RequestError) || error.code !== 'broken') return false;
    const key = toItemKey(item);
    breaks.set(key, (breaks.get(key) ?? 0) + 1);
    return (breaks.get(key) ?? 0) >= MOST_BREAKS;
  };

  const sendAll = async () => {
    const waiting = await listAll();
    onWaiting(waiting.length);
    for (const [index, { item, drop, setAside }] of waiting.entries()) {
      try {
        await send(item);
      } catch (error) {
        if (!isGivenUp(item, error)) throw error;
        await setAside(error.message);
        onRefused(item, error);
        throw error;
      }
      await drop();
      onWaiting(waiting.length - index - 1);
    }
  };

  /** What was put in meanwhile is sent too. */
  const drain = async () => {
    try {
      do await sendAll();
      while ((await listAll()).length > 0);
    } catch (error) {
      timer = setTimeout(flushQuietly, retryMs);
      throw error;
    }
  };

  const flush = (): Promise<void> => {
    clearTimeout(timer);
    running ??= drain().finally(() => (running = undefined));
    return running;
  };
  // Whoever waits for a flush hears of it; here the next try is on its way already.
  const flushQuietly = () => void flush().catch(() => undefined);

  const keep = async (item: OutboxItem) => {
    if (unkept.length === 0) {
      try {
        return await shelf.add(item);
      } catch {
        onUnkept(item);
      }
    }
    unkept.push(item);
  };

  return {
    flush,
    put: async (item) => {
      await keep(item);
      flushQuietly();
    },
    listRefused: async (attemptId) =>
      (await shelf.list()).flatMap(({ item, refused }) =>
        refused !== null && item.attemptId === attemptId ? [{ item, why: refused }] : [],
      ),
    forgetRefused: async (attemptId, stepIndex) => {
      const rows = (await shelf.list()).filter(({ item, refused }) => refused !== null && item.attemptId === attemptId);
      for (const { key, item } of rows) if (item.stepIndex === stepIndex) await shelf.remove(key);
    },
    listWaiting: async (attemptId) => (await listAll()).map(({ item }) => item).filter((item) => item.attemptId === attemptId),
  };
}

const toItemKey = (item: OutboxItem) => (item.kind === 'step' ? item.word.wordId : item.id);

function post(item: OutboxItem): Promise<unknown> {
  const params = { attempt: item.attemptId };
  if (item.kind === 'step') return call(item.api, 'recordStep', { params: { ...params, step: item.stepIndex }, input: item.word });
  const form = new FormData();
  form.set('id', item.id);
  form.set('stepIndex', String(item.stepIndex));
  form.set('file', item.file);
  return call(item.api, 'keepEvidence', { params, form });
}

/** Refused for good: sending it again would not help. Signing in again, a busy server or a dead network would. */
function isFinal(error: unknown): error is RequestError {
  return error instanceof RequestError && !['unavailable', 'broken', 'not signed in', 'too many'].includes(error.code);
}
