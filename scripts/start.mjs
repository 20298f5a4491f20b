/** npm start: all set-up, then the application. Ctrl C stops all that was started. */
import { fork } from 'node:child_process';
import { existsSync } from 'node:fs';
import path from 'node:path';
import { claimFolder, requireFree } from './setup/claim-folder.mjs';
import { isFree } from './setup/cluster.mjs';
import { openMillrace } from './setup/millrace.mjs';
import { openRunner, RUNNER_TOKEN_FILE } from './setup/runner.mjs';
import { openPostbox } from './setup/postbox.mjs';
import { findChromium } from './setup/debian.mjs';
import { installDependencies } from './setup/dependencies.mjs';
import { WEB } from './setup/paths.mjs';
import { SetupError, runMain, say } from './setup/say.mjs';

const PORT = Number(process.env.PORT ?? 4217);

await runMain(async () => {
  if (!Number.isInteger(PORT) || PORT < 1 || PORT > 65_535)
    throw new SetupError(`PORT should be a number from 1 to 65535; “${process.env.PORT}” is not.`);
  if (!(await isFree(PORT))) throw new SetupError(`Port ${PORT} is taken by another program. Choose another: PORT=${PORT + 1} npm start`);
  requireFree();
  installDependencies();
  const chromium = findChromium();
  if (!chromium)
    say(
      'Without Chromium tests are not written as PDF, and no runner does turns; all else works. Install it with: sudo apt-get install chromium',
    );
  const { buildRunner, buildWeb } = await import('./setup/build.mjs');
  const { openDatabase, prepareStore } = await import('./setup/store.mjs');
  const { getKeysFile, getSecret } = await import('./setup/secret.mjs');
  buildWeb();
  buildRunner();
  const letGo = claimFolder(PORT);
  const database = await openDatabase('kindred_baton').catch((error) => {
    letGo();
    throw error;
  });
  const postbox = process.env.SMTP_URL ? null : await openPostbox();
  let practice = null;
  try {
    practice = database.practiceUrl ? await openMillrace(database.practiceUrl) : null;
    const own = {
      ...(practice ? { KINDRED_BATON_PRACTICE_ADDRESS: practice.address } : {}),
      KINDRED_BATON_KEYS: getKeysFile(),
    };
    prepareStore(database.url, {
      ...{ ...own, KINDRED_BATON_RUNNER_TOKEN_FILE: RUNNER_TOKEN_FILE },
      ...(database.practiceUrl ? { KINDRED_BATON_PRACTICE_DATABASE: database.practiceUrl } : {}),
    });
    const post = postbox ? { SMTP_URL: postbox.smtpUrl, postboxPage: postbox.pageUrl } : {};
    await serve({
      ...post,
      ...own,
      DATABASE_URL: database.url,
      KINDRED_BATON_SECRET: getSecret(),
      ...(chromium ? { CHROMIUM_PATH: chromium } : {}),
    });
  } finally {
    practice?.stop();
    postbox?.stop();
    database.stop();
    letGo();
  }
});

/** Resolves when the server has ended, by Ctrl C or by itself. */
function serve({ postboxPage, ...env }) {
  return new Promise((resolve, reject) => {
    const server = fork(path.join(WEB, 'server.mjs'), {
      cwd: WEB,
      env: { ...process.env, ...env, PORT: String(PORT), NODE_ENV: 'production', LOG_LEVEL: process.env.LOG_LEVEL ?? 'warn' },
    });
    let runner = null;
    server.on('message', () => {
      greet(postboxPage, env.KINDRED_BATON_PRACTICE_ADDRESS);
      if (env.CHROMIUM_PATH && existsSync(RUNNER_TOKEN_FILE))
        runner ??= openRunner(`http://127.0.0.1:${PORT}/brindlemere`, env.CHROMIUM_PATH);
    });
    server.on('exit', (code) => (code === 0 ? resolve() : reject(new SetupError(`The server stopped (exit ${code}).`))));
    // The runner says that it ends while there is somebody to hear it.
    const stop = async () => {
      await runner?.stop();
      server.kill('SIGTERM');
    };
    process.on('SIGINT', stop);
    process.on('SIGTERM', stop);
  });
}

function greet(postboxPage, practiceAddress) {
  const password = process.env.KINDRED_BATON_DEMO_PASSWORD ?? 'pass-the-baton';
  say(`
Kindred Baton runs at http://127.0.0.1:${PORT}
${practiceAddress ? `Millrace, the practice application that the demo tests, runs at ${practiceAddress}\n` : ''}${postboxPage ? `Its letters come to a stand-in post office at ${postboxPage}\n` : ''}
The demo's accounts all have the password  ${password}
  lea.marsh@brindlemere.example     test lead
  edda.quill@brindlemere.example    test author
  ines.varga@brindlemere.example    business tester, Customer desk
  karim.bol@brindlemere.example     business tester and process owner, Billing
  cora.vane@brindlemere.example     observer
The sign-in page lists them all. Ctrl C stops everything.
`);
}
