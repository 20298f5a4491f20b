import { createStore } from '@kindred-baton/store/database';
import { seedDemo } from '@kindred-baton/store/demo/seed-demo';
import { migrateStore } from '@kindred-baton/store/migrate';
import pg from 'pg';
import { DEMO_PASSWORD_HASH } from './demo-password.ts';
import { getServerUrl, toDatabaseUrl } from './server-url.ts';

/** Databases that tests copy: one with tables only, one with the demo. They are made once a run. */
const TEMPLATES = ['kb_template_empty', 'kb_template_demo'] as const;
export type Template = 'empty' | 'demo';

/** Each project of the run loads this file for itself; what they share is the process. */
const shared = globalThis as typeof globalThis & { kindredBatonTemplates?: Promise<void> };

export async function setup(): Promise<void> {
  shared.kindredBatonTemplates ??= makeTemplates();
  await shared.kindredBatonTemplates;
}

async function makeTemplates(): Promise<void> {
  const server = new pg.Client({ connectionString: getServerUrl() });
  await server.connect();
  const leftovers = await server.query<{ datname: string }>(`select datname from pg_database where datname like 'kb\\_%'`);
  for (const { datname } of leftovers.rows) await server.query(`drop database "${datname}" with (force)`);
  for (const template of TEMPLATES) {
    await server.query(`create database ${template}`);
    const store = createStore({ url: toDatabaseUrl(template) });
    await migrateStore(store);
    if (template === 'kb_template_demo') await seedDemo(store, DEMO_PASSWORD_HASH);
    await store.pool.end();
  }
  await server.end();
}
