/** A runner: started by npm start, and on other machines with npm run runner. Says what it does as lines of JSON. */
import { readFileSync } from 'node:fs';
import { hostname } from 'node:os';
import pino from 'pino';
import { createServerCall } from './serve/call-server.ts';
import { claimFolder } from './serve/claim-folder.ts';
import { runTurns } from './serve/run-turns.ts';
import { readSettings } from './serve/settings.ts';
import { openWindows } from './window/open-windows.ts';

/** Ended with this it is not started again: the server would refuse it again. */
const NOT_TAKEN = 3;
const log = pino({ base: undefined, level: process.env['LOG_LEVEL'] ?? 'info' });

try {
  const settings = readSettings(process.env, (file) => readFileSync(file, 'utf8'));
  const folder = claimFolder(settings.folder);
  const { sessions, chromium, patienceMs, address, token } = settings;
  const runner = runTurns({
    ...{ sessions, chromium, patienceMs, log, folder: folder.path, instance: folder.instance, machine: hostname() },
    call: createServerCall({ address, token }),
    windows: openWindows({ address, token, log }),
  });
  let isEnding = false;
  const end = async (code: number) => {
    if (isEnding) return;
    isEnding = true;
    await runner.stop();
    folder.letGo();
    process.exit(code);
  };
  for (const signal of ['SIGTERM', 'SIGINT', 'disconnect'] as const) process.on(signal, () => void end(0));
  runner.ended.catch((error: unknown) => {
    log.fatal({ words: error instanceof Error ? error.message : String(error) }, 'the server does not take this runner');
    void end(NOT_TAKEN);
  });
  log.info({ address, sessions }, 'asks for turns');
  process.send?.({ ready: true });
} catch (error) {
  log.fatal(error instanceof Error ? error.message : String(error));
  process.exitCode = 1;
}
