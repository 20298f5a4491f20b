import type { Hono } from 'hono';
import { bodyLimit } from 'hono/body-limit';
import type { Pool } from 'pg';
import { ENVIRONMENT_NAMES } from './data/environments.ts';
import type { OldCase } from './data/take-over.ts';
import { takeOver } from './data/take-over.ts';

const MOST_BYTES = 5 * 1024 * 1024;

/** Where the cases of the old systems come in: a JSON list of objects with texts. */
export function addTakeOver(app: Hono, pool: Pool): void {
  app.post('/take-over/:environment', bodyLimit({ maxSize: MOST_BYTES }), async (c) => {
    const environment = c.req.param('environment');
    const cases: unknown = await c.req.json();
    if (!ENVIRONMENT_NAMES.includes(environment)) return c.notFound();
    if (!isCases(cases)) return c.json({ message: 'Cases are a list of objects whose values are texts.' }, 400);
    return c.json({ taken: await takeOver(pool, environment, cases) });
  });
}

const isCases = (value: unknown): value is OldCase[] =>
  Array.isArray(value) &&
  value.every((one) => typeof one === 'object' && one !== null && Object.values(one).every((text) => typeof text === 'string'));
