/**
 * npm run reset: lays the demo anew, with `--size big` as a trust of several divisions. What was recorded in it is gone; other programmes are named, and
 * kept unless they are named back.
 */
import { requireFree } from './setup/claim-folder.mjs';
import { installDependencies } from './setup/dependencies.mjs';
import { runMain, say, SetupError } from './setup/say.mjs';

const SIZES = ['usual', 'big'];

function readSize(args) {
  const at = args.indexOf('--size');
  const size = at < 0 ? 'usual' : args[at + 1];
  if (!SIZES.includes(size)) throw new SetupError(`There is no size “${size ?? ''}”. Choose one of ${SIZES.join(', ')}.`);
  return size;
}

await runMain(async () => {
  const size = readSize(process.argv.slice(2));
  requireFree();
  installDependencies();
  const { openDatabase, prepareStore } = await import('./setup/store.mjs');
  const { requireLosable, empty } = await import('./setup/whole-database.mjs');
  const database = await openDatabase('kindred_baton');
  try {
    await requireLosable(database.url, 'reset', process.argv.slice(2));
    await empty(database.url);
    prepareStore(database.url, { KINDRED_BATON_DEMO_SIZE: size });
    say('The demo is as new.');
  } finally {
    database.stop();
  }
});
