import { drizzle } from 'drizzle-orm/node-postgres';
import type { NodePgDatabase } from 'drizzle-orm/node-postgres';
import pg from 'pg';
import * as tables from './schema/tables.ts';

export type Database = NodePgDatabase<typeof tables>;

/** A store: the database, its clock, and what it does with each statement (to count queries in tests). */
export interface Store {
  readonly db: Database;
  readonly pool: pg.Pool;
  readonly now: () => Date;
}

export interface StoreOptions {
  readonly url: string;
  readonly now?: () => Date;
  readonly maxConnections?: number;
  readonly onQuery?: (sql: string) => void;
  /** Called when an idle connection breaks; the pool replaces it. */
  readonly onError?: (error: Error) => void;
}

/**
 * Inside a transaction all statements share one connection. Reads that start together then wait for one another here,
 * since the driver will stop doing that for us (it warns from version 8 on).
 */
class QueuingClient extends pg.Client {
  #last: Promise<unknown> = Promise.resolve();

  override query(...args: unknown[]): never {
    // The driver's overloads cannot be spelled out again; only its promise form is queued.
    const send = super.query.bind(this) as unknown as (...given: unknown[]) => Promise<unknown>;
    const isPromiseForm = typeof args.at(-1) !== 'function' && (typeof args[0] === 'string' || !('submit' in (args[0] as object)));
    if (!isPromiseForm) return send(...args) as never;
    const answer = this.#last.then(() => send(...args));
    this.#last = answer.catch(() => undefined);
    return answer as never;
  }
}

/** The tables over a pool, or over one connection of it. */
export const toDatabase = (client: pg.Pool | pg.PoolClient, onQuery?: (sql: string) => void): Database =>
  drizzle({
    client,
    schema: tables,
    casing: 'snake_case',
    ...(onQuery ? { logger: { logQuery: onQuery } } : {}),
  }) as Database;

/** How long is waited for a connection, a free one or a new one. */
const CONNECT_LIMIT_MS = 10_000;

/** Opens a pool of connections. Nothing is connected until the first statement. Close with `store.pool.end()`. */
export function createStore(options: StoreOptions): Store {
  const pool = new pg.Pool({
    connectionString: options.url,
    max: options.maxConnections ?? 10,
    connectionTimeoutMillis: CONNECT_LIMIT_MS,
    Client: QueuingClient,
  });
  const onError = (error: Error) => options.onError?.(error);
  pool.on('error', onError);
  // A connection that breaks in the middle of a transaction: what was asked rejects by itself, and nothing else must fall over it.
  pool.on('connect', (client) => client.on('error', onError));
  const { onQuery } = options;
  return { db: toDatabase(pool, onQuery), pool, now: options.now ?? (() => new Date()) };
}
