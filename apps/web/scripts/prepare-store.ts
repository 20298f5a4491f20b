/** Brings the database up to date and lays the demo where it is empty. Called by start.mjs; prints nothing when all is there. */
import { hashPassword } from 'better-auth/crypto';
import { createStore } from '@kindred-baton/store/database';
import { seedDemo } from '@kindred-baton/store/demo/seed-demo';
import { migrateStore } from '@kindred-baton/store/migrate';

const url = process.env['DATABASE_URL'];
if (!url) throw new Error('DATABASE_URL is not set.');
const store = createStore({ url });
try {
  await migrateStore(store);
  if (process.env['KINDRED_BATON_DEMO'] !== 'no') {
    const started = Date.now();
    const laid = await seedDemo(store, await hashPassword(process.env['KINDRED_BATON_DEMO_PASSWORD'] ?? 'pass-the-baton'));
    if (laid) process.stdout.write(`The demo programme is laid (${((Date.now() - started) / 1_000).toFixed(1)} s).\n`);
  }
} finally {
  await store.pool.end();
}
