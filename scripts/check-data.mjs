/** npm run check:data: whether anything stored contradicts what must hold of turns, runs and defects. Changes nothing. */
import path from 'node:path';
import { installDependencies } from './setup/dependencies.mjs';
import { ROOT } from './setup/paths.mjs';
import { runBeside } from './setup/run.mjs';
import { SetupError, runMain } from './setup/say.mjs';

await runMain(async () => {
  installDependencies();
  const { openDatabase } = await import('./setup/store.mjs');
  const database = await openDatabase('kindred_baton');
  try {
    const script = path.join(ROOT, 'apps/web/scripts/check-data.ts');
    const code = await runBeside(process.execPath, ['--import', 'tsx', script], { cwd: ROOT, env: { DATABASE_URL: database.url } });
    if (code !== 0) throw new SetupError('Something contradicts itself; see above.');
  } finally {
    database.stop();
  }
});
