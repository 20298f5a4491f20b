/** npm run programme -- out key [file]; npm run programme -- in file [--as key]: one programme as one open file, out and in beside what is there. */
import { existsSync } from 'node:fs';
import path from 'node:path';
import { installDependencies } from './setup/dependencies.mjs';
import { ROOT } from './setup/paths.mjs';
import { runBeside } from './setup/run.mjs';
import { SetupError, runMain } from './setup/say.mjs';

const HOW = 'Say which: npm run programme -- out <address> [file], or npm run programme -- in <file> [--as <address>]';

await runMain(async () => {
  const [what, name, ...rest] = process.argv.slice(2);
  if ((what !== 'out' && what !== 'in') || name === undefined) throw new SetupError(HOW);
  const toFile = (file) => path.resolve(process.env.INIT_CWD ?? '.', file);
  const file = toFile(what === 'in' ? name : (rest[0] ?? `${name}.programme.zip`));
  if (what === 'in' && !existsSync(file)) throw new SetupError(`There is no file ${file}.`);
  const key = what === 'out' ? name : rest[0] === '--as' ? (rest[1] ?? '') : '';
  installDependencies();
  const { openDatabase, prepareStore } = await import('./setup/store.mjs');
  const database = await openDatabase('kindred_baton');
  try {
    if (what === 'in') prepareStore(database.url);
    const script = path.join(ROOT, 'apps/web/scripts/programme-file.ts');
    const env = { DATABASE_URL: database.url };
    const code = await runBeside(process.execPath, ['--import', 'tsx', script, what, key, file], { cwd: ROOT, env });
    if (code !== 0) throw new SetupError(what === 'out' ? 'Nothing was written.' : 'Nothing was taken in.');
  } finally {
    database.stop();
  }
});
