/** npm run bench: set-up, then the figures; all, or those that are named. */
import path from 'node:path';
import { installDependencies } from './setup/dependencies.mjs';
import { ROOT } from './setup/paths.mjs';
import { run } from './setup/run.mjs';
import { runMain } from './setup/say.mjs';

await runMain(async () => {
  installDependencies();
  const { buildRunner, buildWeb } = await import('./setup/build.mjs');
  const { openDatabase, prepareStore } = await import('./setup/store.mjs');
  buildWeb();
  buildRunner();
  const database = await openDatabase('kindred_baton');
  try {
    prepareStore(database.url);
    run(process.execPath, ['--import', 'tsx', path.join(ROOT, 'scripts/bench.ts'), ...process.argv.slice(2)], {
      cwd: ROOT,
      env: { DATABASE_URL: database.url },
      why: 'The bench',
    });
  } finally {
    database.stop();
  }
});
