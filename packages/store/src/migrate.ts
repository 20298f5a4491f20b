import { fileURLToPath } from 'node:url';
import { drizzle } from 'drizzle-orm/node-postgres';
import { migrate } from 'drizzle-orm/node-postgres/migrator';
import type { Store } from './database.ts';

const MIGRATION_LOCK = 4_217_001;

/** Brings the tables up to date. Two servers that start at once take turns. */
export async function migrateStore(store: Store): Promise<void> {
  const client = await store.pool.connect();
  try {
    await client.query('select pg_advisory_lock($1)', [MIGRATION_LOCK]);
    await migrate(drizzle({ client, casing: 'snake_case' }), {
      migrationsFolder: fileURLToPath(new URL('../migrations', import.meta.url)),
    });
  } finally {
    await client.query('select pg_advisory_unlock($1)', [MIGRATION_LOCK]);
    client.release();
  }
}
