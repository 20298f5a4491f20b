/** npm run restore file: the database becomes what the backup holds. Programmes that would be lost are named and asked for. */
import { existsSync } from 'node:fs';
import path from 'node:path';
import { requireFree } from './setup/claim-folder.mjs';
import { installDependencies } from './setup/dependencies.mjs';
import { SetupError, runMain, say } from './setup/say.mjs';

await runMain(async () => {
  const [name, ...args] = process.argv.slice(2);
  if (name === undefined || name.startsWith('--')) throw new SetupError('Name the backup: npm run restore kindred-baton.backup');
  const file = path.resolve(process.env.INIT_CWD ?? '.', name);
  if (!existsSync(file)) throw new SetupError(`There is no file ${file}.`);
  requireFree();
  installDependencies();
  const { openDatabase, prepareStore } = await import('./setup/store.mjs');
  const { listProgrammes, load, requireLosable } = await import('./setup/whole-database.mjs');
  const database = await openDatabase('kindred_baton');
  try {
    await requireLosable(database.url, `restore ${name}`, args);
    load(database.url, file);
    // A backup of an older release is brought up to date.
    prepareStore(database.url);
    const own = await listProgrammes(database.url);
    say(`Restored: ${['the demo as it was', ...own.map(({ name: own }) => own)].join(', ')}.`);
  } finally {
    database.stop();
  }
});
