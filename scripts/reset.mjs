/** npm run reset: lays the demo anew. What was recorded in it is gone. */
import { installDependencies } from './setup/dependencies.mjs';
import { runMain, say } from './setup/say.mjs';

await runMain(async () => {
  installDependencies();
  const { openDatabase, prepareStore } = await import('./setup/store.mjs');
  const { default: pg } = await import('pg');
  const database = await openDatabase('kindred_baton');
  try {
    const client = new pg.Client({ connectionString: database.url });
    await client.connect();
    await client.query('drop schema public cascade; drop schema if exists drizzle cascade; create schema public');
    await client.end();
    prepareStore(database.url);
    say('The demo is as new.');
  } finally {
    database.stop();
  }
});
