import type { Hono } from 'hono';
import type { Pool } from 'pg';
import { ENVIRONMENT_NAMES } from './data/environments.ts';
import { openRecords } from './data/records.ts';

const PAGE_END = '\f';

/** Files to take away: the explanation of a bill, the print file of a run. */
export function addFiles(app: Hono, pool: Pool): void {
  app.get('/:environment/files/:kind/:name', async (c) => {
    const { environment, kind, name } = c.req.param();
    if (!ENVIRONMENT_NAMES.includes(environment)) return c.notFound();
    const records = openRecords(pool, environment);
    const number = name.replace(/\.txt$/, '');
    const bills =
      kind === 'run' ? await records.list('bill', { run: number }) : [await records.find('bill', number)].flatMap((bill) => bill ?? []);
    if (bills.length === 0) return c.notFound();
    const text = bills
      .map((bill) => `Bill ${bill.number}\nTariff ${bill.tariff}\nTotal ${bill.total}\nDue on ${bill.due_on}\n`)
      .join(PAGE_END);
    return c.body(text, 200, {
      'content-type': 'text/plain; charset=utf-8',
      'content-disposition': `attachment; filename="${name.replace(/[^\w.-]/g, '')}"`,
    });
  });
}
