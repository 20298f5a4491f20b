import { randomUUID } from 'node:crypto';
import type { Actor } from '@kindred-baton/store/actor';
import { getActor } from '@kindred-baton/store/actor';
import type { Store } from '@kindred-baton/store/database';
import { createStore } from '@kindred-baton/store/database';
import type { Operation, Query } from '@kindred-baton/store/operation';
import { ask, perform } from '@kindred-baton/store/operation';
import { people } from '@kindred-baton/store/schema/people';
import { eq } from 'drizzle-orm';
import pg from 'pg';
import { getServerUrl, toDatabaseUrl } from './server-url.ts';
import type { Template } from './template-databases.ts';

export interface TestStore {
  readonly store: Store;
  readonly url: string;
  /** Every statement sent since the last reset. */
  readonly queries: string[];
  readonly actorOf: (name: string) => Promise<Actor>;
  readonly ask: <Input, Output>(actor: Actor, query: Query<Input, Output>, input: Input) => Promise<Output>;
  readonly perform: <Input, Output>(actor: Actor, operation: Operation<Input, Output>, input: Input) => Promise<Output>;
  readonly drop: () => Promise<void>;
}

async function onServer(run: (client: pg.Client) => Promise<unknown>): Promise<void> {
  const client = new pg.Client({ connectionString: getServerUrl() });
  await client.connect();
  await run(client).finally(() => client.end());
}

export async function copyTemplate(template: Template): Promise<string> {
  const name = `kb_${randomUUID().replaceAll('-', '')}`;
  await onServer((client) => client.query(`create database ${name} template kb_template_${template}`));
  return toDatabaseUrl(name);
}

/** A database with nothing in it, for another program than ours. */
export async function createBareDatabase(): Promise<{ readonly url: string; readonly drop: () => Promise<void> }> {
  const name = `kb_${randomUUID().replaceAll('-', '')}`;
  await onServer((client) => client.query(`create database ${name}`));
  return { url: toDatabaseUrl(name), drop: () => onServer((client) => client.query(`drop database ${name} with (force)`)) };
}

/** A database of one's own, copied from a template. */
export async function createTestStore(template: Template): Promise<TestStore> {
  const url = await copyTemplate(template);
  const queries: string[] = [];
  const store = createStore({ url, onQuery: (sql) => queries.push(sql) });
  return {
    ...{ store, url, queries },
    actorOf: async (name) => {
      const [person] = await store.db.select({ id: people.id }).from(people).where(eq(people.name, name));
      if (!person) throw new Error(`The demo has nobody called ${name}.`);
      return getActor(store, person.id, 'brindlemere');
    },
    ask: (actor, query, input) => ask(store, actor, query, input),
    perform: (actor, operation, input) => perform(store, actor, operation, input),
    drop: async () => {
      await store.pool.end();
      await onServer((client) => client.query(`drop database "${new URL(url).pathname.slice(1)}" with (force)`));
    },
  };
}
