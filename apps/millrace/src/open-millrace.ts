import type { AddressInfo } from 'node:net';
import { serve } from '@hono/node-server';
import pg from 'pg';
import { createApp } from './create-app.ts';
import { ENVIRONMENT_NAMES, layEnvironments } from './data/environments.ts';
import { layBase } from './data/lay-base.ts';
import { sendSpans } from './spans.ts';

export interface Millrace {
  readonly port: number;
  readonly close: () => Promise<void>;
}

interface MillraceOptions {
  readonly databaseUrl: string;
  readonly port?: number | undefined;
  /** Who takes the spans of requests that ask to be traced; none: nobody. */
  readonly tracesTo?: string | undefined;
}

/** Opens the practice suite on a database of its own. Port 0 takes any that is free. */
export async function openMillrace({ databaseUrl, port = 0, tracesTo }: MillraceOptions): Promise<Millrace> {
  const stopSpans = tracesTo ? sendSpans(tracesTo) : undefined;
  const pool = new pg.Pool({ connectionString: databaseUrl, max: 6 });
  // A connection that breaks while nobody uses it is made anew with the next question.
  pool.on('error', () => undefined);
  await layEnvironments(pool);
  for (const name of ENVIRONMENT_NAMES) await layBase(pool, name);
  const server = await new Promise<ReturnType<typeof serve>>((resolve, reject) => {
    const opened = serve({ fetch: createApp(pool).fetch, port, hostname: '127.0.0.1' }, () => resolve(opened));
    opened.once('error', reject);
  });
  return {
    port: (server.address() as AddressInfo).port,
    close: async () => {
      await new Promise<void>((resolve) => {
        server.close(() => resolve());
        if ('closeAllConnections' in server) server.closeAllConnections();
      });
      await pool.end();
      await stopSpans?.();
    },
  };
}
