import type { DefectCourseView } from '@kindred-baton/contracts/progress/defects';
import { defectCourseQuerySchema } from '@kindred-baton/contracts/progress/defects';
import { defectQuerySchema } from '@kindred-baton/contracts/defects/defect';
import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { TestStore } from '../../../../tests/support/test-store.ts';
import { createTestStore } from '../../../../tests/support/test-store.ts';
import type { Actor } from '../actor.ts';
import { listDefectPage } from '../defects/get-defects.ts';
import { getDefectCourse } from './get-defect-course.ts';

describe('the defects of a cycle over time', () => {
  let db: TestStore;
  let lead: Actor;
  beforeAll(async () => {
    db = await createTestStore('demo');
    lead = await db.actorOf('Lea Marsh');
  });
  afterAll(() => db.drop());

  const look = (query: Record<string, string>): Promise<DefectCourseView> =>
    db.ask(lead, getDefectCourse, defectCourseQuerySchema.parse(query));
  const list = async (query: Record<string, string>) => (await db.ask(lead, listDefectPage, defectQuerySchema.parse(query))).rows.size;

  it('are those that SQL written by hand counts, day by day', async () => {
    const { days, all } = await look({ cycle: 'ACC-2' });
    const { rows } = await db.store.db.execute<{ day: string; found: number; fixed: number; open: number }>(sql`
      with own as (select d.* from defects d join cycles c on c.id = d.cycle_id where c.code = 'ACC-2'),
        moves as (select h.*, lead(h.at) over (partition by subject_id order by at, h.id) as until from history h join own on own.id = h.subject_id
          where h.subject = 'defect' and h.action in ('logged', 'accepted', 'fixed', 'closed', 'declined'))
      select to_char(day, 'YYYY-MM-DD') as day,
        (select count(*)::int from own where (found_at at time zone ${lead.timeZone})::date = day) as found,
        (select count(*)::int from moves where action = 'fixed' and (at at time zone ${lead.timeZone})::date = day) as fixed,
        (select count(*)::int from moves where action in ('logged', 'accepted', 'fixed') and (at at time zone ${lead.timeZone})::date <= day
          and (until is null or (until at time zone ${lead.timeZone})::date > day)) as open
      from generate_series(${days[0]!.date}::date, ${days.at(-1)!.date}::date, '1 day') as day order by 1`);
    expect(
      days.map(({ date, found, fixed, open }) => ({ day: date, found, fixed, open: Object.values(open).reduce((a, b) => a + b, 0) })),
    ).toEqual(rows);
    expect(rows.reduce((sum, { found }) => sum + found, 0)).toBe(all.found);
    expect(rows.at(-1)?.open).toBe(all.open);
  });

  it('are as many as the lists that their numbers open have, of a team, a severity, a day and a branch', async () => {
    const { all, teams, severities, days } = await look({ cycle: 'ACC-2' });
    expect([all.found > 0, all.fixed > 0, all.reopened > 0]).toEqual([true, true, true]);
    const lines = [
      { sums: all, own: {} },
      ...teams.map(({ key, sums }) => ({ sums, own: { team: key } })),
      ...severities.map(({ severity, sums }) => ({ sums, own: { severity } })),
    ];
    for (const { sums, own } of lines) {
      const at = { cycle: 'ACC-2', ...own };
      expect([at, await list({ ...at, show: 'all' })]).toEqual([at, sums.found]);
      expect([at, await list(at)]).toEqual([at, sums.open]);
      expect([at, await list({ ...at, column: 'retest' })]).toEqual([at, sums.atRetest]);
      expect([at, await list({ ...at, happened: 'fixed', show: 'all' })]).toEqual([at, sums.fixed]);
      expect([at, await list({ ...at, happened: 'reopened', show: 'all' })]).toEqual([at, sums.reopened]);
    }
    for (const { date, found, over } of days) {
      expect([date, await list({ cycle: 'ACC-2', happened: 'found', on: date, show: 'all' })]).toEqual([date, found]);
      expect([date, await list({ cycle: 'ACC-2', happened: 'over', on: date, show: 'all' })]).toEqual([date, over]);
    }
    const branch = await look({ cycle: 'ACC-2', scope: 'NS' });
    expect(branch.all.found).toBe(await list({ cycle: 'ACC-2', scope: 'NS', show: 'all' }));
    expect(branch.all.found).toBeLessThan(all.found);
  });

  it('say so where there are none', async () => {
    const { rows } = await db.store.db.execute<{ code: string }>(
      sql`select code from cycles where not exists (select from defects where cycle_id = cycles.id) order by code limit 1`,
    );
    expect(await look({ cycle: rows[0]!.code })).toMatchObject({ all: { found: 0, open: 0, oldestMs: null }, teams: [] });
    await expect(look({ cycle: 'NONE-9' })).rejects.toThrow('There is no cycle NONE-9.');
  });
});
