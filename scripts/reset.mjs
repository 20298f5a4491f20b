/** npm run reset: lays the demo anew. What was recorded in it is gone; other programmes are named, and kept unless they are named back. */
import { requireFree } from './setup/claim-folder.mjs';
import { installDependencies } from './setup/dependencies.mjs';
import { runMain, say } from './setup/say.mjs';

await runMain(async () => {
  requireFree();
  installDependencies();
  const { openDatabase, prepareStore } = await import('./setup/store.mjs');
  const { requireLosable, empty } = await import('./setup/whole-database.mjs');
  const database = await openDatabase('kindred_baton');
  try {
    await requireLosable(database.url, 'reset', process.argv.slice(2));
    await empty(database.url);
    prepareStore(database.url);
    say('The demo is as new.');
  } finally {
    database.stop();
  }
});
