import { CHANGE_CHANNEL } from '@kindred-baton/store/operation';
import { changeEventSchema } from '@kindred-baton/contracts/events';
import type { ChangeEvent } from '@kindred-baton/contracts/events';
import pg from 'pg';
import { getConfig } from './config.ts';
import { getLog } from './log.ts';

type Listener = (event: ChangeEvent) => void;

const listeners = new Set<Listener>();
const RETRY_MS = 1_000;
let isListening = false;

/** Tells a listener of every change, from whichever server it comes; returns how to stop. One database connection serves all. */
export function onChange(listener: Listener): () => void {
  listeners.add(listener);
  if (!isListening) {
    isListening = true;
    void listen();
  }
  return () => listeners.delete(listener);
}

async function listen(): Promise<void> {
  const client = new pg.Client({ connectionString: getConfig().DATABASE_URL });
  const retry = (error?: Error) => {
    if (error) getLog().warn({ error: error.message }, 'listening for changes broke off; trying again');
    client.removeAllListeners();
    client.on('error', () => undefined);
    client.end().catch(() => undefined);
    setTimeout(() => void listen(), RETRY_MS).unref();
  };
  client.on('notification', ({ payload }) => tell(payload));
  client.once('error', retry);
  try {
    await client.connect();
    await client.query(`listen ${CHANGE_CHANNEL}`);
  } catch (error) {
    retry(error instanceof Error ? error : undefined);
  }
}

/** What another server said; null: it is no change of ours, whatever it is. */
export function readChange(payload: string | undefined): ChangeEvent | null {
  try {
    return changeEventSchema.parse(JSON.parse(payload ?? 'null'));
  } catch {
    // Anybody who may connect to the database may say anything on this channel.
    return null;
  }
}

function tell(payload: string | undefined): void {
  const event = readChange(payload);
  if (event) for (const listener of listeners) listener(event);
}
