import { readFileSync } from 'node:fs';
import { Hono } from 'hono';
import { HTTPException } from 'hono/http-exception';
import { csrf } from 'hono/csrf';
import type { Pool } from 'pg';
import { findEnvironment, listEnvironments } from './data/environments.ts';
import { addDeployments } from './deployments.ts';
import { writeHome, writeStop } from './draw/small-pages.ts';
import { addFiles } from './files.ts';
import { addInterface } from './interface.ts';
import { addScreens } from './screen-addresses.ts';
import { createSessions } from './sessions.ts';
import { addSignIn, createWhoAsks } from './signing-in.ts';
import { asRequest } from './spans.ts';
import { addTakeOver } from './take-over-address.ts';

const NEWER_SCREEN = readFileSync(new URL('./draw/newer-screen.js', import.meta.url), 'utf8');

/** The whole practice suite over one database. */
export function createApp(pool: Pool): Hono {
  const app = new Hono();
  const sessions = createSessions();
  app.use(asRequest);
  app.use(csrf());
  app.get('/', async (c) => c.html(writeHome(await listEnvironments(pool))));
  app.get('/newer-screen.js', (c) => c.body(NEWER_SCREEN, 200, { 'content-type': 'text/javascript', 'cache-control': 'no-cache' }));
  app.get('/health', (c) => c.json({ ok: true }));
  addDeployments(app, pool, sessions);
  addFiles(app, pool);
  addTakeOver(app, pool);
  app.use('/:environment/*', async (c, next) => {
    const environment = await findEnvironment(pool, c.req.param('environment'));
    if (!environment) return c.notFound();
    if (environment.slowMs > 0) await new Promise((resolve) => setTimeout(resolve, environment.slowMs));
    if (environment.isDown) return c.html(writeStop('Millrace is being serviced', 'Come back later.'), 503);
    return next();
  });
  addInterface(app, pool);
  addSignIn(app, sessions);
  addScreens(app, pool, createWhoAsks(sessions));
  app.notFound((c) => c.html(writeStop('There is no such page', 'Look at the address again.'), 404));
  app.onError((error, c) => {
    if (error instanceof HTTPException) return error.getResponse();
    process.stderr.write(`${error.stack ?? error.message}\n`);
    return c.html(writeStop('Millrace has made a mistake', 'What was done was not kept.'), 500);
  });
  return app;
}
