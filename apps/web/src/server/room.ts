import type { AsyncLocalStorage } from 'node:async_hooks';
import type { ServerResponse } from 'node:http';
import { setTimeout as sleep } from 'node:timers/promises';

/** server.mjs answers each request within it. */
const responses = (globalThis as Record<symbol, unknown>)[Symbol.for('kindred-baton.responses')] as
  AsyncLocalStorage<ServerResponse> | undefined;
const LOOKS_EVERY_MS = 20;

/** What is written and has not left yet lies in memory: what goes out for long waits until there is room. */
export interface Room {
  /** Answers whether there is room within that time; whoever asked may be gone, and then there is. */
  readonly wait: (mostMs: number) => Promise<boolean>;
}

/** Of the request that is answered at this moment. */
export function getRoom(): Room {
  const response = responses?.getStore();
  return {
    wait: async (mostMs) => {
      const until = performance.now() + mostMs;
      while (response?.writableNeedDrain && !response.destroyed) {
        if (performance.now() > until) return false;
        await sleep(LOOKS_EVERY_MS);
      }
      return true;
    },
  };
}
