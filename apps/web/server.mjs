/** Serves the built application, compressed. Forwarding headers are dropped: nothing in front of it is trusted. */
import { AsyncLocalStorage } from 'node:async_hooks';
import { createServer } from 'node:http';
import compression from 'compression';

process.env.ASTRO_NODE_AUTOSTART = 'disabled';
process.env.NODE_ENV ??= 'production';

const { handler } = await import('./dist/server/entry.mjs');
const port = Number(process.env.PORT ?? 4217);
const host = process.env.HOST ?? '127.0.0.1';
const MAX_BODY_BYTES = 64 * 1024 * 1024;
const CLOSE_MS = 1_000;
/** What says `no-transform`, the stream of changes, goes out as it is. */
const compress = compression();
/** The framework writes on whether or not the other side takes it: what goes out for long looks here (src/server/room.ts). */
const responses = new AsyncLocalStorage();
globalThis[Symbol.for('kindred-baton.responses')] = responses;

const isClaim = (name) => name.startsWith('x-forwarded-') || name === 'forwarded';

const server = createServer((request, response) => {
  request.headers = Object.fromEntries(Object.entries(request.headers).filter(([name]) => !isClaim(name)));
  request.headers['x-kindred-baton-client'] = request.socket.remoteAddress ?? '';
  if (Number(request.headers['content-length'] ?? 0) > MAX_BODY_BYTES) {
    response.writeHead(413, { 'content-type': 'application/json', connection: 'close' });
    response.end(JSON.stringify({ code: 'too large', message: 'At most 64 MB can be sent.' }));
    return;
  }
  compress(request, response, () => responses.run(response, () => handler(request, response)));
});

// The lines of the window (src/server/window/); until the first request has been answered there is nobody to take them, and they are tried again.
server.on('upgrade', (request, socket, head) => {
  const take = globalThis[Symbol.for('kindred-baton.upgrades')];
  if (take) take(request, socket, head);
  else socket.end('HTTP/1.1 503 Service Unavailable\r\nconnection: close\r\n\r\n');
});

server.on('error', (error) => {
  process.stderr.write(
    error.code === 'EADDRINUSE' ? `Port ${port} is taken by another program. Choose another: PORT=4300 npm start\n` : `${error.message}\n`,
  );
  process.exit(1);
});
server.listen(port, host, () => process.send?.({ ready: true, port }));

function close() {
  server.close(() => process.exit(0));
  setTimeout(() => {
    server.closeAllConnections();
    process.exit(0);
  }, CLOSE_MS).unref();
}
process.on('SIGTERM', close);
process.on('SIGINT', close);
process.on('disconnect', close);
