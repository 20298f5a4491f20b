import { effortQuerySchema } from '@kindred-baton/contracts/progress/effort';
import { teamProgressQuerySchema } from '@kindred-baton/contracts/progress/teams';
import { turnListQuerySchema } from '@kindred-baton/contracts/turns/turn';
import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { TestStore } from '../../../../tests/support/test-store.ts';
import { createTestStore } from '../../../../tests/support/test-store.ts';
import type { Actor } from '../actor.ts';
import { listTurns } from '../turns/list-turns.ts';
import { getEffort } from './get-effort.ts';
import { getTeamProgress } from './get-team-progress.ts';
import { getMinuteProposals, takeMinutes } from './planned-minutes.ts';

describe('effort', () => {
  let db: TestStore;
  let lead: Actor;
  beforeAll(async () => {
    db = await createTestStore('demo');
    lead = await db.actorOf('Lea Marsh');
  });
  afterAll(() => db.drop());

  const look = (query: Record<string, string> = {}) => db.ask(lead, getEffort, effortQuerySchema.parse(query));

  it('is cycle beside cycle what the teams side by side say of each, the oldest first', async () => {
    const { chosen, lines, totals } = await look();
    expect(chosen.map(({ code }) => code)).toEqual(['INT-1', 'ACC-2']);
    for (const [at, { code }] of chosen.entries()) {
      const { teams } = await db.ask(lead, getTeamProgress, teamProgressQuerySchema.parse({ cycle: code }));
      for (const { key, tried, planned, spent } of teams) {
        const own = lines.find((line) => line.key === key)?.cells[at] ?? { tried: 0, planned: 0, spent: 0 };
        expect([key, own.tried, own.planned]).toEqual([key, tried, planned]);
        expect(own.spent).toBeCloseTo(spent, 6);
      }
      expect(totals[at]?.tried).toBe(teams.reduce((sum, { tried }) => sum + tried, 0));
    }
  });

  it('has the same minutes by team, by process and by day, and as many turns as their lists', async () => {
    const [byTeam, ...others] = await Promise.all(['team', 'process', 'day'].map((by) => look({ by, cycle: 'ACC-2' })));
    const filterOf = {
      team: (key: string) => ({ team: key, spent: 'yes' }),
      process: (key: string) => ({ node: key, spent: 'yes' }),
      day: (key: string) => ({ spent: key }),
    };
    for (const view of others) {
      expect(view.totals[0]!.tried).toBe(byTeam!.totals[0]!.tried);
      expect(view.totals[0]!.spent).toBeCloseTo(byTeam!.totals[0]!.spent, 6);
      expect(view.lines.reduce((sum, { cells }) => sum + cells[0]!.spent, 0)).toBeCloseTo(view.totals[0]!.spent, 6);
    }
    for (const by of ['team', 'process', 'day'] as const)
      for (const { key, cells } of (await look({ by, cycle: 'ACC-2' })).lines) {
        const { rows } = await db.ask(lead, listTurns, turnListQuerySchema.parse({ cycle: 'ACC-2', ...filterOf[by](key) }));
        expect([by, key, rows.size]).toEqual([by, key, cells[0]!.tried]);
      }
  });

  it('of a branch is by what lies below it', async () => {
    const { lines, totals } = await look({ by: 'process', scope: 'NS', cycle: 'ACC-2' });
    expect(lines.map(({ key }) => key)).toEqual(lines.map(({ key }) => key).filter((key) => key.startsWith('NS')));
    expect(lines.length).toBeGreaterThan(1);
    const whole = (await look({ by: 'process', cycle: 'ACC-2' })).lines.find(({ key }) => key === 'NS');
    expect(totals[0]?.tried).toBe(whole?.cells[0]?.tried);
  });

  it('plans tests by the middle one of what their last turns took, once, and leaves what was planned otherwise meanwhile', async () => {
    const { proposals, total, fitting, seldom } = await db.ask(lead, getMinuteProposals, undefined);
    expect(proposals.length).toBe(total);
    expect([total > 3, fitting > 0]).toEqual([true, true]);
    const { rows } = await db.store.db.execute<{ tests: number }>(
      sql`select count(distinct t.test_id)::int as tests from turns t join attempts a on a.turn_id = t.id where a.finished_at is not null and t.test_id is not null`,
    );
    expect(total + fitting + seldom).toBe(rows[0]?.tests);
    const [first, second] = proposals;
    expect(first!.of).toBeGreaterThanOrEqual(3);
    expect(first!.shortest).toBeLessThanOrEqual(first!.longest);
    await db.store.db.execute(sql`update tests set minutes = minutes + 1 where code = ${second!.test}`);
    const changes = [first!, second!].map(({ test, planned, proposed }) => ({ test, from: planned, to: proposed }));
    expect(await db.perform(lead, takeMinutes, { changes })).toEqual({ changed: [first!.test], left: [second!.test] });
    const after = await db.ask(lead, getMinuteProposals, undefined);
    expect(after.proposals.map(({ test }) => test)).not.toContain(first!.test);
    const tester = await db.actorOf('Una Petrel');
    await expect(db.perform(tester, takeMinutes, { changes })).rejects.toMatchObject({ code: 'forbidden' });
  });
});
