import { LEASE_MS } from '@kindred-baton/core/runners/runner';
import { breakOffExpired } from '@kindred-baton/store/runners/break-off';
import { getLog } from './log.ts';
import { getStore } from './store.ts';

const EVERY_MS = 2_000;
let isWatching = false;

/**
 * Looks every few seconds whether a runner was not heard of for too long. A server that has just started waits first: runners that did not reach it
 * meanwhile are heard of again.
 */
export function watchRunners(): void {
  if (isWatching) return;
  isWatching = true;
  setTimeout(() => void watch(), LEASE_MS).unref();
}

async function watch(): Promise<void> {
  try {
    const broken = await breakOffExpired(getStore());
    if (broken > 0) getLog().warn({ attempts: broken }, 'attempts of runners that were not heard of were broken off');
  } catch (error) {
    getLog().warn({ error }, 'runners could not be watched; trying again');
  }
  setTimeout(() => void watch(), EVERY_MS).unref();
}
