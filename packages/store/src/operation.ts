import { sql } from 'drizzle-orm';
import type { Topic } from '@kindred-baton/contracts/events';
import type { Right } from '@kindred-baton/core/programmes/roles';
import type { Actor } from './actor.ts';
import { requireRight } from './actor.ts';
import { chunk } from './chunk.ts';
import type { Database, Store } from './database.ts';
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
  /** Tells open pages what to ask for again, once this transaction is through. */
  readonly announce: (topic: Topic) => void;
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
  readonly run: (context: Context, input: Input) => Promise<Output>;
}

/**
 * The spine of every change: right → transaction → load, decide, write, history and notice → commit. Errors of the
 * driver are translated once, here.
 */
export async function perform<Input, Output>(
  store: Store,
  actor: Actor,
  operation: Operation<Input, Output>,
  input: Input,
): Promise<Output> {
  requireRight(actor, operation.right);
  try {
    return await store.db.transaction(async (db) => {
      const topics = new Set<Topic>();
      const now = store.now();
      const context: Context = {
        db,
        actor,
        now,
        announce: (topic) => topics.add(topic),
        record: async (changes) => {
          const rows = [changes].flat().map((change) => ({ programmeId: actor.programmeId, personId: actor.personId, at: now, ...change }));
          for (const piece of chunk(rows)) await db.insert(history).values(piece);
        },
      };
      const output = await operation.run(context, input);
      if (topics.size > 0) await notify(db, actor.programmeId, [...topics]);
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

/** A read outside a transaction: the same right and actor, no history. */
export interface Query<Input, Output> {
  readonly right: Right;
  readonly read: (context: ReadContext, input: Input) => Promise<Output>;
}

export interface ReadContext {
  readonly db: Reader;
  readonly actor: Actor;
  readonly now: Date;
}

export async function ask<Input, Output>(store: Store, actor: Actor, query: Query<Input, Output>, input: Input): Promise<Output> {
  requireRight(actor, query.right);
  try {
    return await query.read({ db: store.db, actor, now: store.now() }, input);
  } catch (error) {
    throw translateDriverError(error);
  }
}
