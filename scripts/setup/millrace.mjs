import { fork } from 'node:child_process';
import { once } from 'node:events';
import path from 'node:path';
import { isFree } from './cluster.mjs';
import { ROOT } from './paths.mjs';
import { SetupError } from './say.mjs';

const PORT = 4227;

/** Starts the practice suite on a database of its own; it keeps its port where that is free. */
export async function openMillrace(databaseUrl) {
  const port = (await isFree(PORT)) ? PORT : 0;
  const millrace = fork(path.join(ROOT, 'apps/millrace/src/main.ts'), {
    cwd: ROOT,
    execArgv: ['--import', 'tsx'],
    env: { ...process.env, PORT: String(port), MILLRACE_DATABASE_URL: databaseUrl },
  });
  const [message] = await Promise.race([once(millrace, 'message'), once(millrace, 'exit')]);
  if (typeof message !== 'object') throw new SetupError(`The practice application did not start (exit ${message}).`);
  return { address: `http://127.0.0.1:${message.port}`, stop: () => millrace.kill('SIGTERM') };
}
