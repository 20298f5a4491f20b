import { MessageChannel } from 'node:worker_threads';
import { AppError } from '@kindred-baton/contracts/errors';
import { Piscina } from 'piscina';
import type { Done, Phase } from './aside.worker.ts';
import type { Tasks, WhileAside } from './tasks.ts';

interface Limits {
  readonly mostMs: number;
  /** How long it may store, from the moment at which it says that it has read: a request cannot claim this for a file that is slow to read. */
  readonly storesMs: number;
  readonly heapMb: number;
  readonly threads: number;
  readonly mostWaiting: number;
  /** Threads that stay when there is nothing to do: left out, none. */
  readonly kept?: number;
  /** What is said beside that it was stopped. */
  readonly advice: string;
}

const FILES = { mostMs: 30_000, storesMs: 300_000, heapMb: 768, threads: 2, mostWaiting: 20, advice: 'Nothing was kept.' } as const;

/** What pages show: many may wait, since who wants the same shares one answer (share-reads.ts). */
const READS = {
  ...FILES,
  storesMs: 0,
  heapMb: 512,
  mostWaiting: 200,
  kept: 1,
  advice: 'Choose less of it: a branch of the map, a team.',
} as const;

/** Threads of their own for each kind of work, so that files fill none that a plan or a tester waits for. Limits are of one task; docs/import.md tells them. */
const POOLS = {
  files: FILES,
  'turn sheets': { ...FILES, threads: 1 },
  cycles: { ...FILES, mostMs: 120_000 },
  // A door that does not answer keeps a thread waiting, and nobody else's.
  doors: { ...FILES, heapMb: 256, threads: 4 },
  reads: { ...READS, threads: 2 },
  // It stands on every page, and does not wait behind what somebody else looks up.
  strips: { ...READS, threads: 1 },
} as const satisfies Readonly<Record<string, Limits>>;

const KINDS: Readonly<Partial<Record<keyof Tasks, keyof typeof POOLS>>> = {
  'turn sheet': 'turn sheets',
  'ask door': 'doors',
  'try door': 'doors',
  'staff cycle': 'cycles',
  'write workbook': 'cycles',
  read: 'reads',
  strip: 'strips',
};

const IDLE_MS = 60_000;

/** Built, the thread's code is one file beside the server's; while it is being written it runs as it stands. */
const isBuilt = import.meta.url.includes('/dist/server/');
const toWorker = () =>
  isBuilt
    ? import.meta.url.replace(/\/dist\/server\/.*$/, '/dist/aside/aside.worker.mjs')
    : new URL('./aside.worker.ts', import.meta.url).href;

const createPool = ({ threads, heapMb, kept = 0 }: Limits) =>
  new Piscina({
    ...{ filename: toWorker(), minThreads: kept, maxThreads: threads, idleTimeout: IDLE_MS },
    ...{ concurrentTasksPerWorker: 1, resourceLimits: { maxOldGenerationSizeMb: heapMb } },
    ...(isBuilt ? {} : { execArgv: ['--import', 'tsx'] }),
  });

type Given<Name extends keyof Tasks> = Parameters<Tasks[Name]> extends [...infer All, WhileAside?] ? All : Parameters<Tasks[Name]>;
type DoneOf<Name extends keyof Tasks> = Promise<Awaited<ReturnType<Tasks[Name]>>>;
type DoAside = <Name extends keyof Tasks>(task: Name, ...given: Given<Name>) => DoneOf<Name>;
/** The same until somebody leaves: what has not begun is not begun then, what has is told. */
type DoAsideUntil = <Name extends keyof Tasks>(leave: AbortSignal | null, task: Name, given: Given<Name>) => DoneOf<Name>;

/**
 * Does heavy work in a thread of its own, so that nobody else waits for it. What takes too long or too much memory is stopped and
 * refused with a sentence; the time counts from the moment at which a thread begins with it.
 */
export function createDoAside(limits: Limits): DoAside {
  const way = createWay(limits);
  return (task, ...given) => way(null, task, given);
}

function createWay(limits: Limits): DoAsideUntil {
  let pool: Piscina | undefined;
  let asked = 0;
  return async (leave, task, given) => {
    if (asked >= limits.threads + limits.mostWaiting)
      throw new AppError('too many', 'Much is being worked on right now. Try again in a minute.');
    asked += 1;
    const stop = new AbortController();
    const { port1: begins, port2: begun } = new MessageChannel();
    let limit: NodeJS.Timeout | undefined;
    let { mostMs } = limits;
    let go = () => stop.abort();
    const onLeave = () => go();
    leave?.addEventListener('abort', onLeave);
    begins.on('message', (phase: Phase) => {
      go = () => begins.postMessage('left');
      mostMs = phase === 'stores' ? limits.storesMs : limits.mostMs;
      clearTimeout(limit);
      limit = setTimeout(() => stop.abort(), mostMs);
    });
    try {
      pool ??= createPool(limits);
      const done = (await pool.run({ task, given, begun }, { signal: stop.signal, transferList: [begun] })) as Done;
      if (!done.ok) throw new AppError(done.code, done.message, { details: done.details });
      return done.value as never;
    } catch (error) {
      if (leave?.aborted) throw new AppError('too many', 'Nobody waits for this any more.');
      throw toRefusal(error, { ...limits, mostMs });
    } finally {
      asked -= 1;
      leave?.removeEventListener('abort', onLeave);
      clearTimeout(limit);
      begins.close();
    }
  };
}

const ways = Object.fromEntries(Object.entries(POOLS).map(([name, limits]) => [name, createWay(limits)])) as Readonly<
  Record<keyof typeof POOLS, DoAsideUntil>
>;

/** Does a task in the threads of its kind, until somebody leaves. */
export const doAsideUntil: DoAsideUntil = (leave, task, given) => ways[KINDS[task] ?? 'files'](leave, task, given);

/** Does a task in the threads of its kind. */
export const doAside: DoAside = (task, ...given) => doAsideUntil(null, task, given);

function toRefusal(error: unknown, { mostMs, heapMb, advice }: Limits): unknown {
  if (!(error instanceof Error)) return error;
  const code = 'code' in error ? error.code : '';
  if (error.name === 'AbortError')
    return new AppError('invalid', `This takes more than ${mostMs / 1_000} seconds, so it was stopped. ${advice}`);
  if (code === 'ERR_WORKER_OUT_OF_MEMORY')
    return new AppError('invalid', `This takes more than ${heapMb} MB of memory, so it was stopped. ${advice}`);
  return error;
}
