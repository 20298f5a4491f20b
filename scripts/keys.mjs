/** npm run keys -- rotate: a new key, with which every secret is sealed anew. npm run keys -- forget: keys that seal nothing any more are gone. */
import path from 'node:path';
import { installDependencies } from './setup/dependencies.mjs';
import { ROOT } from './setup/paths.mjs';
import { runBeside } from './setup/run.mjs';
import { SetupError, runMain } from './setup/say.mjs';

await runMain(async () => {
  const [what] = process.argv.slice(2);
  if (what !== 'rotate' && what !== 'forget')
    throw new SetupError(
      'Say which: npm run keys -- rotate (old keys stay, so that backups open), or npm run keys -- forget (what was sealed with old keys in backups is lost).',
    );
  installDependencies();
  const { openDatabase } = await import('./setup/store.mjs');
  const { getKeysFile } = await import('./setup/secret.mjs');
  const database = await openDatabase('kindred_baton');
  try {
    const script = path.join(ROOT, 'apps/web/scripts/rotate-keys.ts');
    const env = { DATABASE_URL: database.url };
    const code = await runBeside(process.execPath, ['--import', 'tsx', script, what, getKeysFile()], { cwd: ROOT, env });
    if (code !== 0) throw new SetupError('Nothing was sealed anew, and no key was forgotten.');
  } finally {
    database.stop();
  }
});
