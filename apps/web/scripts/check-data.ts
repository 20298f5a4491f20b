/** Looks whether anything in the database contradicts what must hold. Called by check-data.mjs. */
import { createStore } from '@kindred-baton/store/database';
import { checkRuns } from '@kindred-baton/store/runs/check-runs';

const url = process.env['DATABASE_URL'];
if (!url) throw new Error('DATABASE_URL is not set.');
const store = createStore({ url });
try {
  const found = await checkRuns(store.db);
  for (const { rule, id } of found) process.stdout.write(`${id}: it does not hold that ${rule}\n`);
  if (found.length === 0) process.stdout.write('Turns, runs and defects are as their attempts say.\n');
  process.exitCode = found.length === 0 ? 0 : 1;
} finally {
  await store.pool.end();
}
