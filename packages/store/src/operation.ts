import { sql } from 'drizzle-orm';
import type { Topic } from '@kindred-baton/contracts/events';
import type { Right } from '@kindred-baton/core/programmes/roles';
import type { Actor } from './actor.ts';
import pg from 'pg';
import { requireRight } from './actor.ts';
import { chunk } from './chunk.ts';
import type { Database, Store } from './database.ts';
import { toDatabase } from './database.ts';
import { translateDriverError } from './driver-errors.ts';
import { history } from './schema/history.ts';

/** What both a transaction and the pool can do. */
type Reader = Pick<Database, 'select' | 'selectDistinct' | 'selectDistinctOn' | 'execute'>;

/** What an operation works with: one transaction, who acts, and the moment it all happens at. */
export interface Context {
  readonly db: Reader & Pick<Database, 'insert' | 'update' | 'delete'>;
  readonly actor: Actor;
  readonly now: Date;
  /** Notes changes in the history, in this transaction. */
  readonly record: (changes: Change | readonly Change[]) => Promise<void>;
  /** Open pages are told of these too, besides what the route says that it changes. */
  readonly tell: (topics: readonly Topic[]) => void;
}

export interface Change {
  readonly subject:
    'programme' | 'node' | 'requirement' | 'persona' | 'test' | 'scenario' | 'cycle' | 'turn' | 'attempt' | 'defect' | 'sign-off';
  readonly subjectId: string;
  readonly action: string;
  readonly details?: Record<string, unknown>;
}

export interface Operation<Input, Output> {
  /** The right that it takes; without one it does not compile. */
  readonly right: Right;
  /** Left out: it sees and writes rows of the actor's programme alone. Founding another programme is the one thing that reaches beyond. */
  readonly reach?: 'all programmes';
  readonly run: (context: Context, input: Input) => Promise<Output>;
}

/**
 * The spine of every change: right → transaction → load, decide, write, history → commit; what the route says it changes is told to open pages
 * when it is through. Errors of the driver are translated once, here.
 */
export async function perform<Input, Output>(
  store: Store,
  actor: Actor,
  operation: Operation<Input, Output>,
  input: Input,
  topics: readonly Topic[] = [],
): Promise<Output> {
  requireRight(actor, operation.right);
  try {
    return await store.db.transaction(async (db) => {
      await enterProgramme(db, actor, operation.reach);
      const now = store.now();
      const told = new Set(topics);
      const context: Context = {
        db,
        actor,
        now,
        tell: (more) => more.forEach((topic) => told.add(topic)),
        record: async (changes) => {
          const rows = [changes].flat().map((change) => ({ programmeId: actor.programmeId, personId: actor.personId, at: now, ...change }));
          for (const piece of chunk(rows)) await db.insert(history).values(piece);
        },
      };
      const output = await operation.run(context, input);
      if (told.size > 0) await notify(db, actor.programmeId, [...told]);
      return output;
    });
  } catch (error) {
    throw translateDriverError(error);
  }
}

export const CHANGE_CHANNEL = 'kindred_baton_changes';

async function notify(db: Pick<Database, 'execute'>, programmeId: string, topics: readonly Topic[]): Promise<void> {
  const messages = topics.map((topic) => JSON.stringify({ programmeId, topic }));
  await db.execute(sql`select pg_notify(${CHANGE_CHANNEL}, message) from unnest(${sql.param(messages)}::text[]) as message`);
}

/** The role that row-level security holds to one programme; the migrations make it. */
const MEMBER = 'kindred_baton_member';

/**
 * From here to the end of the transaction the database itself shows and takes rows of the actor's programme alone, also where a statement forgets
 * to ask for it (migrations/0007_own_programme.sql, docs/decisions/0023).
 */
export async function enterProgramme(
  db: Pick<Database, 'execute'>,
  { programmeId }: Pick<Actor, 'programmeId'>,
  reach?: 'all programmes',
): Promise<void> {
  const role = reach === undefined ? sql`, set_config('role', ${MEMBER}, true)` : sql``;
  await db.execute(sql`select set_config('kindred_baton.programme', ${programmeId}, true)${role}`);
}

/** A read: the same right and actor, no history, all its questions about one moment. */
export interface Query<Input, Output> {
  readonly right: Right;
  /** Left out: rows of the actor's programme alone. */
  readonly reach?: 'all programmes';
  readonly read: (context: ReadContext, input: Input) => Promise<Output>;
}

export interface ReadContext {
  readonly db: Reader;
  readonly actor: Actor;
  readonly now: Date;
}

/** What bounds a read that may take long. */
export interface ReadBounds {
  /** For how long the database works on one statement, in milliseconds; then the read is refused with a sentence. */
  readonly mostMs: number;
  /** The reader leaves: the statement that is under way is given up. */
  readonly leave: AbortSignal;
}

export async function ask<Input, Output>(
  store: Store,
  actor: Actor,
  query: Query<Input, Output>,
  input: Input,
  bounds?: ReadBounds,
): Promise<Output> {
  requireRight(actor, query.right);
  try {
    return await store.db.transaction(
      async (db) => {
        const letGo = bounds && (await bindTo(store, db, bounds));
        try {
          await enterProgramme(db, actor, query.reach);
          return await query.read({ db, actor, now: store.now() }, input);
        } finally {
          await letGo?.();
        }
      },
      { isolationLevel: 'repeatable read', accessMode: 'read only' },
    );
  } catch (error) {
    throw translateDriverError(error);
  }
}

/** A read whose answer comes in parts, all of one moment. */
export interface PartedQuery<Input, Part> {
  readonly right: Right;
  readonly parts: (context: ReadContext, input: Input) => AsyncGenerator<Part, void>;
}

/** It keeps a connection until it is through or left: whoever offers it bounds how many there are, and how long they last. */
export async function* askInParts<Input, Part>(
  store: Store,
  actor: Actor,
  query: PartedQuery<Input, Part>,
  input: Input,
): AsyncGenerator<Part, void> {
  requireRight(actor, query.right);
  const client = await store.pool.connect().catch((error: unknown) => {
    throw translateDriverError(error);
  });
  let isThrough = false;
  try {
    const db = toDatabase(client);
    await client.query('begin isolation level repeatable read read only');
    await enterProgramme(db, actor);
    yield* query.parts({ db, actor, now: store.now() }, input);
    await client.query('commit');
    isThrough = true;
  } catch (error) {
    throw translateDriverError(error);
  } finally {
    // What was left in the middle ends with its connection.
    client.release(!isThrough);
  }
}

/**
 * Bounds the statements of a transaction; answers how to let it go before it ends. What gives a statement up is through by then: later it would meet
 * somebody else's, since the connection serves others.
 */
async function bindTo(store: Store, db: Reader, { mostMs, leave }: ReadBounds): Promise<() => Promise<void>> {
  const { rows } = await db.execute<{ pid: number }>(
    sql`select set_config('statement_timeout', ${String(mostMs)}, true), pg_backend_pid() as pid`,
  );
  let givenUp: Promise<void> | undefined;
  const giveUp = () => void (givenUp ??= cancel(store, rows[0]?.pid));
  leave.addEventListener('abort', giveUp);
  if (leave.aborted) giveUp();
  return async () => {
    leave.removeEventListener('abort', giveUp);
    await givenUp;
  };
}

const CANCEL_LIMIT_MS = 2_000;

/** Gives up what a connection is doing; over one of its own, since those of the pool may all wait for this. Where it cannot be, its time bounds it. */
async function cancel({ pool }: Store, pid: number | undefined): Promise<void> {
  const { connectionString } = pool.options;
  const client = new pg.Client({ connectionString, connectionTimeoutMillis: CANCEL_LIMIT_MS, query_timeout: CANCEL_LIMIT_MS });
  client.on('error', () => undefined);
  try {
    await client.connect();
    await client.query('select pg_cancel_backend($1)', [pid]);
  } catch {
    return;
  } finally {
    await client.end().catch(() => undefined);
  }
}
