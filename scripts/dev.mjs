/** npm run dev: the application as it is being written, at the usual port; a change shows within seconds. The database is that of npm start. */
import path from 'node:path';
import { claimFolder } from './setup/claim-folder.mjs';
import { openPostbox } from './setup/postbox.mjs';
import { findChromium } from './setup/debian.mjs';
import { installDependencies } from './setup/dependencies.mjs';
import { ROOT, WEB } from './setup/paths.mjs';
import { runBeside } from './setup/run.mjs';
import { runMain, say } from './setup/say.mjs';

const PORT = process.env.PORT ?? '4217';

await runMain(async () => {
  installDependencies();
  const { openDatabase, prepareStore } = await import('./setup/store.mjs');
  const { getKeysFile, getSecret } = await import('./setup/secret.mjs');
  const letGo = claimFolder(PORT);
  const database = await openDatabase('kindred_baton');
  const postbox = process.env.SMTP_URL ? null : await openPostbox();
  // Ctrl C goes to the whole group: the server ends by itself, and here all that was started is stopped.
  process.on('SIGINT', () => undefined);
  try {
    prepareStore(database.url);
    const chromium = findChromium();
    say(`Kindred Baton is being written at http://127.0.0.1:${PORT}; the first page takes half a minute.`);
    await runBeside(process.execPath, [path.join(ROOT, 'node_modules/astro/astro.js'), 'dev', '--host', '127.0.0.1', '--port', PORT], {
      cwd: WEB,
      env: {
        ASTRO_TELEMETRY_DISABLED: '1',
        DATABASE_URL: database.url,
        KINDRED_BATON_SECRET: getSecret(),
        KINDRED_BATON_KEYS: getKeysFile(),
        ...(postbox ? { SMTP_URL: postbox.smtpUrl } : {}),
        ...(chromium ? { CHROMIUM_PATH: chromium } : {}),
      },
    });
  } finally {
    postbox?.stop();
    database.stop();
    letGo();
  }
});
