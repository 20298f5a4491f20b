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
  | { readonly kind: 'capture'; readonly stepIndex: number; readonly gzip: string }
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
const LOOK_MS = 20;

/** Opens the outbox of a folder and begins to send what lies in it: of each attempt in order, and each once. */
export const openOutbox = (options: OutboxOptions): Outbox => new DiskOutbox(options);

class DiskOutbox implements Outbox {
  readonly #options: OutboxOptions;
  readonly #home: string;
  readonly #write: typeof writeFile;
  readonly #queues: Map<AttemptId, Waiting[]>;
  readonly #sending = new Set<AttemptId>();
  /** One is written after the other: what is put first is sent first. */
  #writing: Promise<void> = Promise.resolve();
  #problem = '';
  #number = 0;
  #isStopped = false;

  constructor(options: OutboxOptions) {
    this.#options = options;
    this.#write = options.write ?? writeFile;
    this.#home = path.join(options.folder, 'outbox');
    mkdirSync(this.#home, { recursive: true });
    this.#queues = new Map(readWaiting(this.#home));
    for (const attempt of this.#queues.keys()) this.#begin(attempt);
  }

  put(attempt: AttemptId, item: OutboxItem): Promise<void> {
    return this.#inTurn(async () => {
      const waiting = await this.#keep(attempt, item);
      const queue = this.#queues.get(attempt) ?? [];
      queue.push(waiting);
      this.#queues.set(attempt, queue);
      this.#begin(attempt);
    });
  }

  list(): { readonly attempt: AttemptId; readonly isFinishing: boolean }[] {
    return [...this.#queues].map(([attempt, queue]) => ({ attempt, isFinishing: queue.some(({ kind }) => kind === 'finish') }));
  }

  async checkDisk(): Promise<string> {
    if (this.#problem === '') return '';
    const probe = path.join(this.#home, '.probe');
    const isWritten = await this.#write(probe, 'x'.repeat(PROBE_BYTES)).then(
      () => true,
      () => false,
    );
    await rm(probe, { force: true });
    if (isWritten) this.#problem = '';
    return this.#problem;
  }

  async whenEmpty(limitMs: number): Promise<void> {
    const end = Date.now() + limitMs;
    while (this.#queues.size > 0 && Date.now() < end) await new Promise((resolve) => setTimeout(resolve, LOOK_MS));
  }

  stop(): void {
    this.#isStopped = true;
  }

  #inTurn(act: () => Promise<void>): Promise<void> {
    const done = this.#writing.then(act);
    this.#writing = done.catch(() => undefined);
    return done;
  }

  /** Written beside and then named, so that what is half written is never read. */
  async #keep(attempt: AttemptId, item: OutboxItem): Promise<Waiting> {
    const place = [String(Date.now()).padStart(15, '0'), String((this.#number += 1)).padStart(6, '0')];
    const file = `${place.join('-')}-${item.kind}.json`;
    try {
      mkdirSync(path.join(this.#home, attempt), { recursive: true });
      const [half, whole] = [this.#pathOf(attempt, `.${file}`), this.#pathOf(attempt, file)];
      await this.#write(half, JSON.stringify(item), { mode: 0o600 });
      await rename(half, whole);
      this.#problem = '';
      return { file, kind: item.kind };
    } catch (error) {
      this.#problem = `Nothing can be written to ${this.#options.folder}: ${describeDisk(error)}. What is recorded waits in memory; free some room, or it is lost when the runner ends.`;
      return { item, kind: item.kind };
    }
  }

  #begin(attempt: AttemptId): void {
    if (this.#sending.has(attempt)) return;
    this.#sending.add(attempt);
    this.#sendAll(attempt).catch((error: unknown) => this.#options.onTrouble?.(error));
  }

  async #sendAll(attempt: AttemptId): Promise<void> {
    const { retryMs = RETRY_MS } = this.#options;
    let pause = retryMs;
    for (let next = this.#next(attempt); next && !this.#isStopped; next = this.#next(attempt)) {
      const came = await this.#sendOne(attempt, next);
      if (came === 'refused') break;
      if (came === 'not yet') await new Promise((resolve) => setTimeout(resolve, pause));
      pause = came === 'sent' ? retryMs : Math.min(MOST_RETRY_MS, pause * 2);
    }
    this.#sending.delete(attempt);
    // In turn with what is written: nothing is written into a folder that goes.
    await this.#inTurn(async () => {
      if (this.#queues.get(attempt)?.length !== 0) return;
      this.#queues.delete(attempt);
      await rm(path.join(this.#home, attempt), { recursive: true, force: true });
    });
  }

  async #sendOne(attempt: AttemptId, waiting: Waiting): Promise<'sent' | 'not yet' | 'refused'> {
    try {
      await this.#options.send(attempt, await this.#read(attempt, waiting));
      if ('file' in waiting) await rm(this.#pathOf(attempt, waiting.file), { force: true });
      this.#queues.get(attempt)?.shift();
      return 'sent';
    } catch (error) {
      if (!(error instanceof Refused)) {
        this.#options.onTrouble?.(error);
        return 'not yet';
      }
      // A token that is withdrawn may be given anew; what is refused for itself never gets in.
      const isForGood = error.status !== WITHDRAWN;
      if (isForGood) await this.#setAside(attempt);
      this.#options.onRefused(attempt, error);
      return isForGood ? 'refused' : 'not yet';
    }
  }

  /** What the server does not take any more is kept beside, for whoever looks why. */
  #setAside(attempt: AttemptId): Promise<void> {
    const refusedHome = path.join(this.#options.folder, 'refused');
    return this.#inTurn(async () => {
      this.#queues.delete(attempt);
      mkdirSync(refusedHome, { recursive: true });
      const to = path.join(refusedHome, attempt);
      await rm(to, { recursive: true, force: true });
      await rename(path.join(this.#home, attempt), to).catch(() => undefined);
    });
  }

  #next = (attempt: AttemptId): Waiting | undefined => this.#queues.get(attempt)?.[0];
  #pathOf = (attempt: AttemptId, file: string): string => path.join(this.#home, attempt, file);

  async #read(attempt: AttemptId, waiting: Waiting): Promise<OutboxItem> {
    return 'item' in waiting ? waiting.item : (JSON.parse(await readFile(this.#pathOf(attempt, waiting.file), 'utf8')) as OutboxItem);
  }
}

/** What an earlier process left behind. What it had not written to the end begins with a point and is no item. */
function readWaiting(home: string): [AttemptId, Waiting[]][] {
  const attempts = readdirSync(home).filter((name) => !name.startsWith('.'));
  return attempts.map((attempt) => {
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
