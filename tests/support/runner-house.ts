import type { ChildProcess } from 'node:child_process';
import { fork } from 'node:child_process';
import { once } from 'node:events';
import { appendFileSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import type { Millrace } from '@kindred-baton/millrace/open-millrace';
import { openMillrace } from '@kindred-baton/millrace/open-millrace';
import type { Store } from '@kindred-baton/store/database';
import { createStore } from '@kindred-baton/store/database';
import { layDemoDoors } from '@kindred-baton/store/demo/lay-doors';
import { letDemoRunnersIn } from '@kindred-baton/store/demo/let-runners-in';
import { pointDemo } from '@kindred-baton/store/demo/point-demo';
import type { Seal } from '@kindred-baton/store/secrets';
import { addKey, seal } from '@kindred-baton/store/secrets';
import { copyTemplate, createBareDatabase } from './test-store.ts';
import type { WebServer } from './web-server.ts';
import { startWebServer } from './web-server.ts';

const RUNNER = fileURLToPath(new URL('../../apps/runner/dist/runner.mjs', import.meta.url));

export interface RunnerProcess {
  readonly child: ChildProcess;
  /** Resolves with its exit code. */
  readonly end: (signal?: NodeJS.Signals) => Promise<number | null>;
}

/** The demo with its practice application and everything that runners need, as npm start brings it: each a process of its own. */
export interface RunnerHouse {
  readonly server: WebServer;
  readonly store: Store;
  readonly millrace: Millrace;
  readonly token: string;
  readonly folder: string;
  readonly startRunner: (more?: NodeJS.ProcessEnv) => RunnerProcess;
  /** Killed, and started again at the same port. */
  readonly restartServer: () => Promise<void>;
  /** All that runners have said of what they do. */
  readonly readLog: () => string;
  readonly deploy: (environment: string, change: Readonly<Record<string, unknown>>) => Promise<void>;
  readonly close: () => Promise<void>;
}

export async function openRunnerHouse(): Promise<RunnerHouse> {
  const folder = mkdtempSync(path.join(tmpdir(), 'kindred-baton-house-'));
  const [url, bare] = [await copyTemplate('demo'), await createBareDatabase()];
  const store = createStore({ url });
  const millrace = await openMillrace({ databaseUrl: bare.url });
  const address = `http://127.0.0.1:${millrace.port}`;
  const ring = addKey(undefined);
  const keys = path.join(folder, 'keys.json');
  writeFileSync(keys, JSON.stringify(ring), { mode: 0o600 });
  await pointDemo(store, address);
  const sealHere: Seal = (secret, place) => seal(ring, secret, place);
  await layDemoDoors(store, { address, databaseUrl: bare.url }, sealHere);
  const token = await letDemoRunnersIn(store, { seal: sealHere, token: '' });
  if (!token) throw new Error('The demo lets no runner in.');
  const settings = { KINDRED_BATON_KEYS: keys };
  let server = await startWebServer(url, undefined, settings);
  const log = path.join(folder, 'runner.log');
  writeFileSync(log, '');
  const children: ChildProcess[] = [];
  return {
    ...{ server, store, millrace, token, folder },
    restartServer: async () => {
      const { port } = server;
      await server.stop('SIGKILL');
      server = await startWebServer(url, port, settings);
    },
    startRunner: (more = {}) => {
      const env = {
        ...{ KINDRED_BATON_RUNNER_ADDRESS: `${server.baseUrl}/brindlemere`, KINDRED_BATON_RUNNER_TOKEN: token, LOG_LEVEL: 'info' },
        KINDRED_BATON_RUNNER_FOLDER: path.join(folder, 'runner'),
      };
      const child = fork(RUNNER, { env: { ...process.env, ...env, ...more }, execArgv: [], silent: true });
      for (const stream of [child.stdout, child.stderr]) stream?.on('data', (text: Buffer) => appendFileSync(log, text));
      children.push(child);
      const ended = once(child, 'exit');
      return {
        child,
        end: async (signal = 'SIGTERM') => {
          if (child.exitCode === null && child.signalCode === null) child.kill(signal);
          const [code] = (await ended) as [number | null];
          return code;
        },
      };
    },
    readLog: () => readFileSync(log, 'utf8'),
    deploy: async (environment, change) => {
      const answer = await fetch(`${address}/deployments/${environment}`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify(change),
      });
      if (!answer.ok) throw new Error(`The practice application did not take ${JSON.stringify(change)} (${answer.status}).`);
    },
    close: async () => {
      for (const child of children) child.kill('SIGKILL');
      await server.stop();
      await millrace.close();
      await bare.drop();
      await store.pool.end();
      rmSync(folder, { recursive: true, force: true, maxRetries: 5 });
    },
  };
}
