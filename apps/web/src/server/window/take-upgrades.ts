import type { IncomingMessage } from 'node:http';
import type { Duplex } from 'node:stream';
import { AppError } from '@kindred-baton/contracts/errors';
import { idSchema } from '@kindred-baton/contracts/common';
import { ask } from '@kindred-baton/store/operation';
import { PING_MS } from '@kindred-baton/core/window/frame';
import { findShown } from '@kindred-baton/store/window/find-shown';
import type { WebSocket } from 'ws';
import { WebSocketServer } from 'ws';
import { toAppError } from '../answer-error.ts';
import { getLog } from '../log.ts';
import { getStore } from '../store.ts';
import { findAskingRunner } from '../which-runner.ts';
import { findActor, findPerson } from '../who-asks.ts';
import { Hub } from './hub.ts';

type TakeUpgrade = (request: IncomingMessage, socket: Duplex, head: Buffer) => void;

/** A frame of a large screen is a few hundred kB. */
const MOST_BYTES = 4_000_000;
const PATH = /^\/api\/([^/]+)\/(?:attempts\/([^/]+)\/window|runners\/window)$/;
const STATUS: Readonly<Record<string, string>> = {
  'not signed in': '401 Unauthorized',
  forbidden: '403 Forbidden',
  'not found': '404 Not Found',
};

let isTaking = false;

/** Lets the lines of the window in (server.mjs hands them over): those of runners by their token, those of people by their session, from pages of ours alone. */
export function takeUpgrades(): void {
  if (isTaking) return;
  isTaking = true;
  const hub = new Hub();
  const lines = new WebSocketServer({ noServer: true, maxPayload: MOST_BYTES });
  const take: TakeUpgrade = (request, socket, head) => {
    socket.on('error', () => undefined);
    letIn(hub, lines, { request, socket, head }).catch((error: unknown) => {
      const known = toAppError(error);
      if (!(known.code in STATUS)) getLog().error({ error }, 'a line of the window could not be let in');
      socket.end(`HTTP/1.1 ${STATUS[known.code] ?? '503 Service Unavailable'}\r\nconnection: close\r\n\r\n`);
    });
  };
  (globalThis as Record<symbol, unknown>)[Symbol.for('kindred-baton.upgrades')] = take;
}

interface Asked {
  readonly request: IncomingMessage;
  readonly socket: Duplex;
  readonly head: Buffer;
}

async function letIn(hub: Hub, lines: WebSocketServer, asked: Asked): Promise<void> {
  const { url = '', headers } = asked.request;
  const { origin, pathname } = new URL(url, `http://${headers.host ?? 'localhost'}`);
  const found = PATH.exec(pathname);
  if (!found) throw new AppError('not found', 'There is no such line.');
  const [, programme = '', attempt] = found;
  const request = new Request(origin + pathname, { headers: pick(headers) });
  if (attempt === undefined) return letRunnerIn(hub, lines, { asked, request, programme });
  // A browser sends its cookie from any page; where the page is from it says too.
  if (headers.origin !== origin) throw new AppError('forbidden', 'This does not come from a page of Kindred Baton.');
  const id = idSchema<'attempt'>().safeParse(attempt);
  if (!id.success) throw new AppError('not found', 'There is no such attempt.');
  const check = async () => {
    const personId = await findPerson(request);
    if (!personId) throw new AppError('not signed in', 'Your session is over.');
    return ask(getStore(), await findActor(personId, programme), findShown, id.data);
  };
  const shown = await check();
  lines.handleUpgrade(asked.request, asked.socket, asked.head, (socket) => {
    keepAlive(socket);
    hub.addWatcher(id.data, { socket, check }, shown);
  });
}

async function letRunnerIn(
  hub: Hub,
  lines: WebSocketServer,
  { asked, request, programme }: { readonly asked: Asked; readonly request: Request; readonly programme: string },
): Promise<void> {
  const check = async () => {
    const actor = await findAskingRunner(request);
    if (!actor?.runnerId || actor.programmeKey !== programme) throw new AppError('not signed in', 'This token is not known here.');
    return actor.runnerId;
  };
  const runner = await check();
  lines.handleUpgrade(asked.request, asked.socket, asked.head, (socket) => {
    keepAlive(socket);
    hub.addMaker(runner, socket, check);
  });
}

/** Asks now and then whether the other side is still there; a laptop that was closed says nothing. */
function keepAlive(socket: WebSocket): void {
  let isThere = true;
  socket.on('error', () => undefined);
  socket.on('pong', () => (isThere = true));
  const timer = setInterval(() => {
    if (!isThere) return socket.terminate();
    isThere = false;
    socket.ping();
  }, PING_MS);
  socket.on('close', () => clearInterval(timer));
}

/** Of what is sent, that by which somebody is known. */
function pick(headers: IncomingMessage['headers']): Record<string, string> {
  return Object.fromEntries(
    (['host', 'cookie', 'authorization'] as const).flatMap((name) => (headers[name] === undefined ? [] : [[name, headers[name]]])),
  );
}
