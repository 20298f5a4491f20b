import { once } from 'node:events';
import net from 'node:net';

export interface DatabaseProxy {
  /** The same database, reached through here. */
  readonly url: string;
  /** Breaks every connection off, and takes no other until `comeBack`. */
  readonly goAway: () => Promise<void>;
  readonly comeBack: () => Promise<void>;
  readonly close: () => Promise<void>;
}

/** Stands between a server and its database, so that a test can take the database away. */
export async function openDatabaseProxy(databaseUrl: string): Promise<DatabaseProxy> {
  const to = new URL(databaseUrl);
  const open = new Set<net.Socket>();
  const serve = (near: net.Socket) => {
    const far = net.connect(Number(to.port), to.hostname);
    for (const [one, other] of [
      [near, far],
      [far, near],
    ] as const) {
      open.add(one);
      one.on('error', () => other.destroy());
      one.on('close', () => {
        open.delete(one);
        other.destroy();
      });
      one.pipe(other);
    }
  };
  let server: net.Server | null = null;
  const listen = async (port: number) => {
    server = net.createServer(serve).listen(port, '127.0.0.1');
    await once(server, 'listening');
    return (server.address() as net.AddressInfo).port;
  };
  const port = await listen(0);
  const goAway = async () => {
    const closing = server;
    server = null;
    if (!closing) return;
    closing.close();
    for (const socket of open) socket.destroy();
    await once(closing, 'close');
  };
  const near = new URL(databaseUrl);
  near.port = String(port);
  return { url: near.toString(), goAway, comeBack: async () => void (await listen(port)), close: goAway };
}
