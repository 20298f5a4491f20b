import { fork } from 'node:child_process';
import { once } from 'node:events';
import path from 'node:path';
import { isFree } from './cluster.mjs';
import { ROOT } from './paths.mjs';
import { SetupError } from './say.mjs';

const PAGE_PORT = 4226;

/** Starts the stand-in post office; its page keeps its port where that is free. */
export async function openPostbox() {
  const pagePort = (await isFree(PAGE_PORT)) ? PAGE_PORT : 0;
  const postbox = fork(path.join(ROOT, 'apps/postbox/src/main.ts'), {
    cwd: ROOT,
    execArgv: ['--import', 'tsx'],
    env: { ...process.env, PAGE_PORT: String(pagePort) },
  });
  const [message] = await Promise.race([once(postbox, 'message'), once(postbox, 'exit')]);
  if (typeof message !== 'object') throw new SetupError(`The stand-in post office did not start (exit ${message}).`);
  return {
    smtpUrl: `smtp://127.0.0.1:${message.smtpPort}?ignoreTLS=true`,
    pageUrl: `http://127.0.0.1:${message.pagePort}`,
    stop: () => postbox.kill('SIGTERM'),
  };
}
