import { mkdirSync, readdirSync } from 'node:fs';
import { readFile, rename, rm, writeFile } from 'node:fs/promises';
import path from 'node:path';
import type { RecordStep } from '@kindred-baton/contracts/turns/turn';
import type { AttemptId } from '@kindred-baton/core/ids';
import { Refused } from './call-server.ts';

/** What a runner has to say of an attempt. */
export type OutboxItem =
  | { readonly kind: 'step'; readonly stepIndex: number; readonly word: RecordStep }
  | { readonly kind: 'picture'; readonly stepIndex: number; readonly id: string; readonly jpeg: string }
  | { readonly kind: 'finish' };

/** Attempts with what waits of each; it lies on the disk until the server has it, so that a process that ends at any moment loses nothing of it. */
export interface Outbox {
  /** Resolves when it lies where it is sent from. */
  readonly put: (attempt: AttemptId, item: OutboxItem) => Promise<void>;
  /** Attempts of which something waits, and whether their end is among it. */
  readonly list: () => { readonly attempt: AttemptId; readonly isFinishing: boolean }[];
  /** Why the disk takes nothing at the moment, tried anew; empty: it does. What comes meanwhile is held in memory. */
  readonly checkDisk: () => Promise<string>;
  /** Resolves when nothing waits any more, or the time is over. */
  readonly whenEmpty: (limitMs: number) => Promise<void>;
  readonly stop: () => void;
}

export interface OutboxOptions {
  readonly folder: string;
  readonly send: (attempt: AttemptId, item: OutboxItem) => Promise<unknown>;
  /** The server takes nothing more of it: whoever does it stops. */
  readonly onRefused: (attempt: AttemptId, error: Refused) => void;
  readonly onTrouble?: (error: unknown) => void;
  readonly write?: typeof writeFile;
  readonly retryMs?: number;
}

/** What waits: on the disk, or in memory where the disk took nothing. */
type Waiting =
  { readonly file: string; readonly kind: OutboxItem['kind'] } | { readonly item: OutboxItem; readonly kind: OutboxItem['kind'] };

/** As much as a picture takes. */
const PROBE_BYTES = 200_000;
const RETRY_MS = 500;
const MOST_RETRY_MS = 10_000;
const WITHDRAWN = 401;

/** Opens the outbox of a folder and begins to send what lies in it: of each attempt in order, and each once. */
export function openOutbox({ folder, send, onRefused, onTrouble, write = writeFile, retryMs = RETRY_MS }: OutboxOptions): Outbox {
  const home = path.join(folder, 'outbox');
  const refusedHome = path.join(folder, 'refused');
  mkdirSync(home, { recursive: true });
  const queues = new Map<AttemptId, Waiting[]>(readWaiting(home));
  const sending = new Set<AttemptId>();
  let problem = '';
  /** One is written after the other: what is put first is sent first. */
  let writing = Promise.resolve();
  const inTurn = (act: () => Promise<void>): Promise<void> => {
    const done = writing.then(act);
    writing = done.catch(() => undefined);
    return done;
  };
  let number = 0;
  let isStopped = false;
  const pathOf = (attempt: AttemptId, file: string) => path.join(home, attempt, file);

  const readItem = async (attempt: AttemptId, waiting: Waiting): Promise<OutboxItem> =>
    'item' in waiting ? waiting.item : (JSON.parse(await readFile(pathOf(attempt, waiting.file), 'utf8')) as OutboxItem);
  const drop = async (attempt: AttemptId, waiting: Waiting) => {
    if ('file' in waiting) await rm(pathOf(attempt, waiting.file), { force: true });
  };
  /** What the server does not take any more is kept beside, for whoever looks why. */
  const setAside = (attempt: AttemptId) =>
    inTurn(async () => {
      queues.delete(attempt);
      mkdirSync(refusedHome, { recursive: true });
      const to = path.join(refusedHome, attempt);
      await rm(to, { recursive: true, force: true });
      await rename(path.join(home, attempt), to).catch(() => undefined);
    });
  const sendAll = async (attempt: AttemptId) => {
    if (sending.has(attempt)) return;
    sending.add(attempt);
    let pause = retryMs;
    while (!isStopped && (queues.get(attempt)?.length ?? 0) > 0) {
      const waiting = queues.get(attempt)![0]!;
      try {
        await send(attempt, await readItem(attempt, waiting));
        await drop(attempt, waiting);
        queues.get(attempt)?.shift();
        pause = retryMs;
      } catch (error) {
        if (error instanceof Refused && error.status !== WITHDRAWN) {
          await setAside(attempt);
          onRefused(attempt, error);
          break;
        }
        if (error instanceof Refused) onRefused(attempt, error);
        else onTrouble?.(error);
        await new Promise((resolve) => setTimeout(resolve, pause));
        pause = Math.min(MOST_RETRY_MS, pause * 2);
      }
    }
    sending.delete(attempt);
    // In turn with what is written: nothing is written into a folder that goes.
    await inTurn(async () => {
      if (queues.get(attempt)?.length !== 0) return;
      queues.delete(attempt);
      await rm(path.join(home, attempt), { recursive: true, force: true });
    });
  };
  const begin = (attempt: AttemptId) => void sendAll(attempt).catch((error: unknown) => onTrouble?.(error));
  const keep = async (attempt: AttemptId, item: OutboxItem): Promise<Waiting> => {
    const file = `${String(Date.now()).padStart(15, '0')}-${String((number += 1)).padStart(6, '0')}-${item.kind}.json`;
    try {
      mkdirSync(path.join(home, attempt), { recursive: true });
      await write(pathOf(attempt, `.${file}`), JSON.stringify(item), { mode: 0o600 });
      await rename(pathOf(attempt, `.${file}`), pathOf(attempt, file));
      problem = '';
      return { file, kind: item.kind };
    } catch (error) {
      problem = `Nothing can be written to ${folder}: ${describeDisk(error)}. What is recorded waits in memory; free some room, or it is lost when the runner ends.`;
      return { item, kind: item.kind };
    }
  };
  for (const attempt of queues.keys()) begin(attempt);
  return {
    put: (attempt, item) =>
      inTurn(async () => {
        const waiting = await keep(attempt, item);
        const queue = queues.get(attempt) ?? [];
        queue.push(waiting);
        queues.set(attempt, queue);
        begin(attempt);
      }),
    list: () => [...queues].map(([attempt, queue]) => ({ attempt, isFinishing: queue.some(({ kind }) => kind === 'finish') })),
    checkDisk: async () => {
      if (problem === '') return '';
      const probe = path.join(home, '.probe');
      const isWritten = await write(probe, 'x'.repeat(PROBE_BYTES)).then(
        () => true,
        () => false,
      );
      await rm(probe, { force: true });
      if (isWritten) problem = '';
      return problem;
    },
    whenEmpty: async (limitMs) => {
      const end = Date.now() + limitMs;
      while (queues.size > 0 && Date.now() < end) await new Promise((resolve) => setTimeout(resolve, 20));
    },
    stop: () => (isStopped = true),
  };
}

/** What an earlier process left behind. What it had not written to the end begins with a point and is no item. */
function readWaiting(home: string): [AttemptId, Waiting[]][] {
  return readdirSync(home).map((attempt) => {
    const files = readdirSync(path.join(home, attempt)).filter((file) => file.endsWith('.json') && !file.startsWith('.'));
    const queue = files.sort().map((file) => ({ file, kind: /-(\w+)\.json$/.exec(file)![1] as OutboxItem['kind'] }));
    return [attempt as AttemptId, queue];
  });
}

const DISK: Readonly<Record<string, string>> = {
  ENOSPC: 'the disk is full',
  EDQUOT: 'its share of the disk is used up',
  EROFS: 'it may only be read',
};
function describeDisk(error: unknown): string {
  const { code, message } = error as { code?: string; message?: string };
  return DISK[code ?? ''] ?? message ?? String(error);
}
