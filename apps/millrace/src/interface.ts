import type { Hono } from 'hono';
import { bodyLimit } from 'hono/body-limit';
import { bearerAuth } from 'hono/bearer-auth';
import type { Pool } from 'pg';
import type { KindName, Values } from './data/kinds.ts';
import { KINDS } from './data/kinds.ts';
import { openRecords } from './data/records.ts';
import { describeInterface } from './describe-interface.ts';
import type { ApplicationName } from './kit/screen.ts';
import { APPLICATIONS } from './kit/screen.ts';
import { toSlug } from './screens/all-screens.ts';
import { passwordOf } from './users.ts';

/** Which records each application tells of. */
export const RECORDS_OF: Readonly<Record<ApplicationName, readonly KindName[]>> = {
  Customer: ['application', 'survey', 'quote', 'report'],
  Works: ['job', 'permit', 'workOrder', 'plan', 'plant', 'sample'],
  Metering: ['meter', 'round', 'reading'],
  Billing: ['account', 'bill', 'run', 'charge', 'reminder'],
  Stores: ['material', 'partsList', 'requisition', 'order', 'delivery'],
  Ledger: ['receipt', 'refund', 'posting', 'payment', 'invoice'],
};

/** What another system may write: a leak that its callers report. */
const WRITABLE = { kind: 'report', columns: ['place', 'how_bad', 'message'], required: ['place'] } as const;
const MOST_BYTES = 100_000;
const MOST_ROWS = 200;

/** The interface for other systems: each application's records as JSON, by bearer token, with its description as OpenAPI 3.1. */
export function addInterface(app: Hono, pool: Pool): void {
  app.get('/:environment/:application/api/openapi.json', (c) => {
    const name = findApplication(c.req.param('application'));
    return name ? c.json(describeInterface(c.req.param('environment'), name, RECORDS_OF[name])) : c.notFound();
  });
  app.use(
    '/:environment/:application/api/*',
    bearerAuth({ verifyToken: (token, c) => token === passwordOf(c.req.param('environment') ?? '') }),
  );
  app.get('/:environment/:application/api/', (c) => {
    const name = findApplication(c.req.param('application'));
    return name ? c.json({ application: `Millrace ${name}`, records: RECORDS_OF[name].map((kind) => KINDS[kind].table) }) : c.notFound();
  });
  app.get('/:environment/:application/api/:table', async (c) => {
    const { environment, application, table } = c.req.param();
    const kind = findKind(application, table);
    if (!kind) return c.json(NO_RECORDS, 404);
    const where = c.req.query();
    const unknown = Object.keys(where).find((name) => !Object.hasOwn(KINDS[kind].columns, name));
    if (unknown !== undefined) return c.json({ message: `${table} have no ${unknown}.` }, 400);
    return c.json(await openRecords(pool, environment).list(kind, where as Values<KindName>, MOST_ROWS));
  });
  app.get('/:environment/:application/api/:table/:number', async (c) => {
    const { environment, application, table, number } = c.req.param();
    const kind = findKind(application, table);
    const record = kind && (await openRecords(pool, environment).find(kind, number));
    return record ? c.json(record) : c.json({ message: `There is no ${number} among the ${table}.` }, 404);
  });
  app.post('/:environment/:application/api/:table', bodyLimit({ maxSize: MOST_BYTES }), async (c) => {
    const { environment, application, table } = c.req.param();
    if (findKind(application, table) !== WRITABLE.kind) return c.json({ message: `${table} are not taken in here.` }, 405);
    const given = await c.req.json<unknown>().catch(() => undefined);
    const values = readReport(given);
    if (!values) return c.json({ message: `A report says its place, and besides ${WRITABLE.columns.join(', ')}; all as text.` }, 400);
    return c.json(await openRecords(pool, environment).create(WRITABLE.kind, values), 201);
  });
}

const NO_RECORDS = { message: 'There are no such records.' };

const findApplication = (slug: string): ApplicationName | undefined => APPLICATIONS.find((name) => toSlug(name) === slug);

function findKind(application: string, table: string): KindName | undefined {
  const name = findApplication(application);
  return name && RECORDS_OF[name].find((kind) => KINDS[kind].table === table);
}

function readReport(given: unknown): Values<'report'> | undefined {
  if (typeof given !== 'object' || given === null || Array.isArray(given)) return undefined;
  const entries = Object.entries(given);
  const isKnown = entries.every(([name, value]) => WRITABLE.columns.some((column) => column === name) && typeof value === 'string');
  return isKnown && WRITABLE.required.every((name) => name in given) ? (given as Values<'report'>) : undefined;
}
