import { MessageChannel } from 'node:worker_threads';
import { AppError } from '@kindred-baton/contracts/errors';
import { Piscina } from 'piscina';
import type { Readers } from './readers.ts';

interface Limits {
  readonly readMs: number;
  readonly heapMb: number;
  readonly threads: number;
  readonly mostWaiting: number;
}

/** Limits of one file; docs/import.md tells them. */
const LIMITS: Limits = { readMs: 30_000, heapMb: 768, threads: 2, mostWaiting: 20 };
const IDLE_MS = 60_000;

/** Built, the thread's code is one file beside the server's; while it is being written it runs as it stands. */
const isBuilt = import.meta.url.includes('/dist/server/');
const toWorker = () =>
  isBuilt
    ? import.meta.url.replace(/\/dist\/server\/.*$/, '/dist/reader/reader.worker.mjs')
    : new URL('./reader.worker.ts', import.meta.url).href;

const createPool = ({ threads, heapMb }: Limits) =>
  new Piscina({
    ...{ filename: toWorker(), minThreads: 0, maxThreads: threads, idleTimeout: IDLE_MS },
    ...{ concurrentTasksPerWorker: 1, resourceLimits: { maxOldGenerationSizeMb: heapMb } },
    ...(isBuilt ? {} : { execArgv: ['--import', 'tsx'] }),
  });

type ReadAside = <Name extends keyof Readers>(
  reader: Name,
  ...given: Parameters<Readers[Name]>
) => Promise<Awaited<ReturnType<Readers[Name]>>>;

/**
 * Reads what somebody brought in a thread of its own, so that nobody else waits for it. What takes too long or too much memory is stopped and
 * refused with a sentence; the time counts from the moment at which a thread begins with it.
 */
export function createReadAside(limits: Limits): ReadAside {
  let pool: Piscina | undefined;
  let asked = 0;
  return async (reader, ...given) => {
    if (asked >= limits.threads + limits.mostWaiting)
      throw new AppError('too many', 'Many files are being read right now. Try again in a minute.');
    asked += 1;
    const stop = new AbortController();
    const { port1: begins, port2: begun } = new MessageChannel();
    let limit: NodeJS.Timeout | undefined;
    begins.once('message', () => (limit = setTimeout(() => stop.abort(), limits.readMs)));
    try {
      pool ??= createPool(limits);
      return (await pool.run({ reader, given, begun }, { signal: stop.signal, transferList: [begun] })) as never;
    } catch (error) {
      throw toRefusal(error, limits);
    } finally {
      asked -= 1;
      clearTimeout(limit);
      begins.close();
    }
  };
}

export const readAside = createReadAside(LIMITS);

function toRefusal(error: unknown, { readMs, heapMb }: Limits): unknown {
  if (!(error instanceof Error)) return error;
  const code = 'code' in error ? error.code : '';
  if (error.name === 'AbortError')
    return new AppError('invalid', `Reading this file takes more than ${readMs / 1_000} seconds, so it was stopped. Nothing was kept.`);
  if (code === 'ERR_WORKER_OUT_OF_MEMORY')
    return new AppError('invalid', `Reading this file takes more than ${heapMb} MB of memory, so it was stopped. Nothing was kept.`);
  return error;
}
