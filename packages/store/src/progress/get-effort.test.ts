import { effortQuerySchema } from '@kindred-baton/contracts/progress/effort';
import { teamProgressQuerySchema } from '@kindred-baton/contracts/progress/teams';
import { turnListQuerySchema } from '@kindred-baton/contracts/turns/turn';
import type { AttemptId, TurnId } from '@kindred-baton/core/ids';
import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { TestStore } from '../../../../tests/support/test-store.ts';
import { createTestStore } from '../../../../tests/support/test-store.ts';
import type { Actor } from '../actor.ts';
import { getGuide } from '../turns/get-guide.ts';
import { listTurns } from '../turns/list-turns.ts';
import { sayMinutes } from '../turns/say-minutes.ts';
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

  it('counts what whoever made an attempt says it took, until that is taken back or the cycle is closed', async () => {
    const cell = async () => (await look({ cycle: 'ACC-2' })).totals[0]!;
    const before = await cell();
    const { rows } = await db.store.db.execute<{ attempt: AttemptId; turn: TurnId; person: string; code: string }>(sql`
      select distinct on (c.code) a.id as attempt, t.id as turn, p.name as person, c.code
      from attempts a join turns t on t.id = a.turn_id join cycles c on c.id = t.cycle_id join people p on p.id = a.person_id
      where a.finished_at is not null and a.runner_id is null and a.continues_id is null and c.code in ('ACC-2', 'INT-1')
        and t.id not in (select turn_id from attempts where number > 1) and exists (select from runs r where r.id = t.run_id and r.left_to is null)
      order by c.code, a.id`);
    const [own, closed] = rows;
    expect([own?.code, closed?.code]).toEqual(['ACC-2', 'INT-1']);
    const tester = await db.actorOf(own!.person);
    const attempt = async () => (await db.ask(tester, getGuide, own!.turn)).attempts[0]!;
    const { counted } = (await attempt()).spent!;
    const say = (minutes: number | null) => db.perform(tester, sayMinutes, { attemptId: own!.attempt, minutes });
    await say(90);
    await say(77);
    await say(77);
    expect((await attempt()).spent).toEqual({ counted, said: 77, canSay: true });
    expect((await cell()).spent - before.spent).toBeCloseTo(77 - counted, 0);
    expect((await look({ cycle: 'ACC-2' })).corrected).toEqual([1]);
    const listed = await db.ask(lead, listTurns, turnListQuerySchema.parse({ cycle: 'ACC-2', spent: 'said' }));
    expect(listed.turns.map(({ id }) => id)).toEqual([own!.turn]);
    await expect(db.perform(lead, sayMinutes, { attemptId: own!.attempt, minutes: 1 })).rejects.toMatchObject({ code: 'forbidden' });
    await say(null);
    expect(await cell()).toEqual(before);
    const { rows: told } = await db.store.db.execute<{ details: unknown }>(
      sql`select details from history where action = 'said what it took' order by at, id`,
    );
    expect(told.map(({ details }) => details)).toMatchObject([
      { from: null, to: 90 },
      { from: 90, to: 77 },
      { from: 77, to: null },
    ]);
    const other = await db.actorOf(closed!.person);
    await expect(db.perform(other, sayMinutes, { attemptId: closed!.attempt, minutes: 5 })).rejects.toThrow('Cycle INT-1 is closed');
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
