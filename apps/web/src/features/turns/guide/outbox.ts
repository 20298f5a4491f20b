import type { AttemptId, EvidenceId } from '@kindred-baton/core/ids';
import type { RecordStep } from '@kindred-baton/contracts/turns/turn';
import type { DBSchema, IDBPDatabase } from 'idb';
import { openDB } from 'idb';
import { RequestError, sendForm, sendJson } from '../../../client/request.ts';

/** What a tester recorded waits here, in the browser, until the server has it: a dead network or a restart loses nothing. */
export type Letter =
  | { readonly kind: 'step'; readonly api: string; readonly attemptId: AttemptId; readonly stepIndex: number; readonly word: RecordStep }
  | {
      readonly kind: 'evidence';
      readonly api: string;
      readonly attemptId: AttemptId;
      readonly stepIndex: number;
      readonly id: EvidenceId;
      readonly file: File;
    };

interface OutboxSchema extends DBSchema {
  letters: { key: number; value: Letter & { readonly personId: string } };
}

export interface Outbox {
  readonly put: (letter: Letter) => Promise<void>;
  /** Sends all that waits, in order; resolves when nothing is left, rejects with the first refusal or when the server is away. */
  readonly flush: () => Promise<void>;
  readonly listWaiting: (attemptId: AttemptId) => Promise<Letter[]>;
}

const RETRY_MS = 3_000;

let database: Promise<IDBPDatabase<OutboxSchema>> | undefined;

function open(): Promise<IDBPDatabase<OutboxSchema>> {
  database ??= openDB<OutboxSchema>('kindred-baton-outbox', 1, {
    upgrade: (db) => void db.createObjectStore('letters', { autoIncrement: true }),
  });
  return database;
}

export interface OutboxEvents {
  readonly onWaiting: (count: number) => void;
  /** A letter that the server refused for good: it is told, and what was typed stays on the screen. */
  readonly onRefused: (letter: Letter, error: RequestError) => void;
}

/** The outbox of one person in this browser; another person's letters stay until she is back. */
export function createOutbox(personId: string, events: OutboxEvents): Outbox {
  let running: Promise<void> | undefined;
  let timer: ReturnType<typeof setTimeout> | undefined;

  const readAll = async () => {
    const db = await open();
    const [keys, letters] = await Promise.all([db.getAllKeys('letters'), db.getAll('letters')]);
    return letters.flatMap((letter, index) =>
      letter.personId === personId && keys[index] !== undefined ? [{ key: keys[index], letter }] : [],
    );
  };

  const sendAll = async () => {
    const waiting = await readAll();
    events.onWaiting(waiting.length);
    for (const [index, { key, letter }] of waiting.entries()) {
      try {
        await post(letter);
      } catch (error) {
        if (!isFinal(error)) throw error;
        await (await open()).delete('letters', key);
        events.onRefused(letter, error);
        throw error;
      }
      await (await open()).delete('letters', key);
      events.onWaiting(waiting.length - index - 1);
    }
  };

  const flush = (): Promise<void> => {
    clearTimeout(timer);
    running ??= drain().finally(() => (running = undefined));
    return running;
  };

  /** What was put in meanwhile is sent too. */
  const drain = async () => {
    try {
      do await sendAll();
      while ((await readAll()).length > 0);
    } catch (error) {
      timer = setTimeout(() => void flush().catch(() => undefined), RETRY_MS);
      throw error;
    }
  };

  return {
    flush,
    put: async (letter) => {
      await (await open()).add('letters', { ...letter, personId });
      void flush().catch(() => undefined);
    },
    listWaiting: async (attemptId) => (await readAll()).map(({ letter }) => letter).filter((letter) => letter.attemptId === attemptId),
  };
}

function post(letter: Letter): Promise<unknown> {
  const attempt = `${letter.api}/attempts/${letter.attemptId}`;
  if (letter.kind === 'step') return sendJson('PUT', `${attempt}/steps/${letter.stepIndex}`, letter.word);
  const form = new FormData();
  form.set('id', letter.id);
  form.set('stepIndex', String(letter.stepIndex));
  form.set('file', letter.file);
  return sendForm(`${attempt}/evidence`, form);
}

/** Refused for good: sending it again would not help. Signing in again, a busy server or a dead network would. */
function isFinal(error: unknown): error is RequestError {
  return error instanceof RequestError && !['unavailable', 'broken', 'not signed in', 'too many'].includes(error.code);
}
