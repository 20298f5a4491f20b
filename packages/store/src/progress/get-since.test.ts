import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { sinceQuerySchema } from '@kindred-baton/contracts/progress/since';
import { turnListQuerySchema } from '@kindred-baton/contracts/turns/turn';
import type { TestStore } from '../../../../tests/support/test-store.ts';
import { createTestStore } from '../../../../tests/support/test-store.ts';
import type { Actor } from '../actor.ts';
import { listTurns } from '../turns/list-turns.ts';
import { getSince } from './get-since.ts';

const CODE = 'ACC-2';
const DAY_MS = 86_400_000;

describe('what changed in a cycle', () => {
  let db: TestStore;
  let lead: Actor;
  beforeAll(async () => {
    db = await createTestStore('demo');
    lead = await db.actorOf('Lea Marsh');
  });
  afterAll(() => db.drop());

  const look = (query: Record<string, string> = {}) => db.ask(lead, getSince, sinceQuerySchema.parse({ cycle: CODE, ...query }));
  const ago = (days: number) => new Date(Date.now() - days * DAY_MS).toISOString();

  it('is as many turns as its lists have, also of a branch', async () => {
    for (const scope of [undefined, 'NS']) {
      for (const days of [2, 5, 30]) {
        const since = ago(days);
        const told = await look({ since, ...(scope === undefined ? {} : { scope }) });
        const count = async (more: object) => {
          const query = turnListQuerySchema.parse({ cycle: CODE, node: scope, ...more });
          return (await db.ask(lead, listTurns, query)).rows.size;
        };
        expect(told.passed).toBe(await count({ status: 'passed', doneSince: since }));
        expect(told.failed + told.blocked).toBe(await count({ status: 'failed,blocked', doneSince: since }));
        expect(told.ready).toBe(await count({ readySince: since }));
      }
    }
    expect((await look({ since: ago(30) })).passed).toBeGreaterThan(0);
  });

  it('and the defects that SQL written by hand finds', async () => {
    const list = async (since: string, is: ReturnType<typeof sql>) => {
      const { rows } = await db.store.db.execute<{ code: string }>(sql`
        select defects.code from defects join cycles on cycles.id = cycle_id where cycles.code = ${CODE} and ${is} order by number`);
      return rows.map(({ code }) => code);
    };
    for (const days of [1, 4, 30]) {
      const since = ago(days);
      const { found, fixed } = await look({ since });
      expect(found.map(({ code }) => code)).toEqual(await list(since, sql`found_at >= ${since}::timestamptz`));
      expect(fixed.map(({ code }) => code)).toEqual(
        await list(since, sql`defects.id in (select subject_id from history where action = 'fixed' and at >= ${since}::timestamptz)`),
      );
    }
    const { found, fixed } = await look({ since: ago(30) });
    expect([found.length > 0, fixed.length > 0]).toEqual([true, true]);
    const branches = await Promise.all(['NS', 'LR', 'RB', 'MI', 'PU'].map(async (scope) => (await look({ since: ago(30), scope })).found));
    expect(new Set(branches.flat().map(({ code }) => code)).size).toBe(found.length);
  });
});
