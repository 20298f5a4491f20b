/** npm run backup [file]: all that is stored, in one file, which is checked by restoring it beside the original. */
import { statSync } from 'node:fs';
import path from 'node:path';
import { installDependencies } from './setup/dependencies.mjs';
import { SetupError, runMain, say } from './setup/say.mjs';

await runMain(async () => {
  installDependencies();
  const { openDatabase } = await import('./setup/store.mjs');
  const { dump, fingerprint, load, withSpare } = await import('./setup/whole-database.mjs');
  const stamp = new Date().toISOString().slice(0, 16).replaceAll(':', '');
  const file = path.resolve(process.env.INIT_CWD ?? '.', process.argv[2] ?? `kindred-baton-${stamp}.backup`);
  const database = await openDatabase('kindred_baton');
  try {
    const before = await fingerprint(database.url);
    dump(database.url, file);
    const after = await fingerprint(database.url);
    const restored = await withSpare(database.url, async (url) => {
      load(url, file);
      return fingerprint(url);
    });
    // What people write meanwhile is in the file or not; all else must be the same, row by row.
    const lost = Object.keys(before).filter(
      (name) => restored[name] !== before[name] && restored[name] !== after[name] && before[name] === after[name],
    );
    if (lost.length > 0)
      throw new SetupError(`The backup in ${file} is not the same as what is stored: ${lost.join(', ')}. Do not rely on it.`);
    const tables = Object.keys(restored).length;
    say(
      `${file} (${(statSync(file).size / 1_048_576).toFixed(1)} MB) holds all ${tables} tables; it was restored once and compared row by row.`,
    );
    say('It holds all that people wrote, and what their passwords are checked by: keep it as you keep those.');
  } finally {
    database.stop();
  }
});
