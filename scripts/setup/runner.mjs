import { fork } from 'node:child_process';
import { once } from 'node:events';
import path from 'node:path';
import { DATA, ROOT } from './paths.mjs';

/** The runner that npm start brings: its folder stands beside the data. */
const RUNNER_FOLDER = path.join(DATA, 'runner');
export const RUNNER_TOKEN_FILE = path.join(DATA, 'runner-token');

/** Starts a runner for the demo; it asks for turns until the server is gone. */
export function openRunner(address, chromium) {
  const runner = fork(path.join(ROOT, 'apps/runner/dist/runner.mjs'), {
    cwd: ROOT,
    env: {
      ...process.env,
      LOG_LEVEL: process.env.LOG_LEVEL ?? 'warn',
      KINDRED_BATON_RUNNER_ADDRESS: address,
      KINDRED_BATON_RUNNER_TOKEN_FILE: RUNNER_TOKEN_FILE,
      KINDRED_BATON_RUNNER_FOLDER: RUNNER_FOLDER,
      CHROMIUM_PATH: chromium,
    },
  });
  const ended = once(runner, 'exit');
  return {
    stop: async () => {
      runner.kill('SIGTERM');
      await Promise.race([ended, new Promise((resolve) => setTimeout(resolve, 10_000))]);
    },
  };
}
