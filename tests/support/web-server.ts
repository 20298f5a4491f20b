import type { ChildProcess } from 'node:child_process';
import { fork } from 'node:child_process';
import { once } from 'node:events';
import net from 'node:net';
import { fileURLToPath } from 'node:url';
import type { TestProject } from 'vitest/node';
import { setup as makeTemplates } from './template-databases.ts';
import { copyTemplate } from './test-store.ts';

declare module 'vitest' {
  export interface ProvidedContext {
    baseUrl: string;
    databaseUrl: string;
  }
}

export interface WebServer {
  readonly baseUrl: string;
  readonly port: number;
  readonly pid: number;
  readonly stop: (signal?: NodeJS.Signals) => Promise<void>;
}

const WEB = fileURLToPath(new URL('../../apps/web/', import.meta.url));

async function findFreePort(): Promise<number> {
  const server = net.createServer().listen(0, '127.0.0.1');
  await once(server, 'listening');
  const { port } = server.address() as net.AddressInfo;
  server.close();
  await once(server, 'close');
  return port;
}

/** The built application, as npm start serves it. */
export async function startWebServer(databaseUrl: string, wantedPort?: number, settings: NodeJS.ProcessEnv = {}): Promise<WebServer> {
  const port = wantedPort ?? (await findFreePort());
  const env = {
    DATABASE_URL: databaseUrl,
    PORT: String(port),
    KINDRED_BATON_SECRET: 'a secret of the end-to-end tests',
    KINDRED_BATON_SIGN_INS_A_MINUTE: '10000',
    ...settings,
  };
  const child: ChildProcess = fork('server.mjs', { cwd: WEB, env: { ...process.env, ...env, NODE_ENV: 'production' }, execArgv: [] });
  const [message] = (await Promise.race([once(child, 'message'), once(child, 'exit')])) as [{ ready?: boolean } | number];
  if (typeof message !== 'object') throw new Error(`The server did not start (exit ${message}).`);
  const stop = async (signal: NodeJS.Signals = 'SIGTERM') => {
    if (child.exitCode !== null || child.signalCode !== null) return;
    child.kill(signal);
    await once(child, 'exit');
  };
  return { baseUrl: `http://127.0.0.1:${port}`, port, pid: child.pid ?? 0, stop };
}

/** One server with the demo for all end-to-end tests. */
export default async function setup(project: TestProject): Promise<() => Promise<void>> {
  await makeTemplates();
  const databaseUrl = await copyTemplate('demo');
  const server = await startWebServer(databaseUrl);
  project.provide('baseUrl', server.baseUrl);
  project.provide('databaseUrl', databaseUrl);
  return () => server.stop();
}
