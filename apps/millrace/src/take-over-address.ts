import { createHash } from 'node:crypto';
import type { Hono } from 'hono';
import { bodyLimit } from 'hono/body-limit';
import type { Pool } from 'pg';
import { ENVIRONMENT_NAMES, getTakenOver, setTakenOver } from './data/environments.ts';
import type { OldCase } from './data/take-over.ts';
import { takeOver } from './data/take-over.ts';

const MOST_BYTES = 5 * 1024 * 1024;

/** Where the cases of the old systems come in: a JSON list of objects with texts. */
export function addTakeOver(app: Hono, pool: Pool): void {
  app.post('/take-over/:environment', bodyLimit({ maxSize: MOST_BYTES }), async (c) => {
    const environment = c.req.param('environment');
    const body = await c.req.text();
    const cases = parseJson(body);
    if (!ENVIRONMENT_NAMES.includes(environment)) return c.notFound();
    if (!isCases(cases)) return c.json({ message: 'Cases are a list of objects whose values are texts.' }, 400);
    // The same again, as at each start, is known by its digest.
    const digest = createHash('sha256').update(body).digest('hex');
    if ((await getTakenOver(pool, environment)) === digest) return c.json({ taken: 0 });
    const taken = await takeOver(pool, environment, cases);
    await setTakenOver(pool, environment, digest);
    return c.json({ taken });
  });
}

function parseJson(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return undefined;
  }
}

const isCases = (value: unknown): value is OldCase[] =>
  Array.isArray(value) &&
  value.every((one) => typeof one === 'object' && one !== null && Object.values(one).every((text) => typeof text === 'string'));
