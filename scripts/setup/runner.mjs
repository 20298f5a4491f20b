import { fork } from 'node:child_process';
import { once } from 'node:events';
import path from 'node:path';
import { DATA, ROOT } from './paths.mjs';
import { say } from './say.mjs';

/** The runner that npm start brings: its folder stands beside the data. */
const RUNNER_FOLDER = path.join(DATA, 'runner');
export const RUNNER_TOKEN_FILE = path.join(DATA, 'runner-token');

const NOT_TAKEN = 3;
const MOST_PAUSE_MS = 60_000;

/** Starts a runner for the demo, and again when it ends by itself, each time after a longer pause. */
export function openRunner(address, chromium) {
  let runner = null;
  let isEnding = false;
  let pauseMs = 1_000;
  const start = () => {
    if (isEnding) return;
    runner = fork(path.join(ROOT, 'apps/runner/dist/runner.mjs'), {
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
    runner.on('exit', (code) => {
      if (isEnding) return;
      if (code === NOT_TAKEN) return say('The server does not take the runner of this machine any more; it is not started again.');
      say(`The runner ended (exit ${code}); it is started again in ${pauseMs / 1_000} s.`);
      setTimeout(start, pauseMs).unref();
      pauseMs = Math.min(MOST_PAUSE_MS, pauseMs * 2);
    });
  };
  start();
  return {
    stop: async () => {
      isEnding = true;
      if (runner.exitCode !== null || runner.signalCode !== null) return;
      const ended = once(runner, 'exit');
      runner.kill('SIGTERM');
      await Promise.race([ended, new Promise((resolve) => setTimeout(resolve, 10_000))]);
    },
  };
}
