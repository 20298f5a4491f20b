import { randomUUID } from 'node:crypto';
import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { teamProgressQuerySchema } from '@kindred-baton/contracts/progress/teams';
import type { AttemptId, TurnId } from '@kindred-baton/core/ids';
import { getSpentMs } from '@kindred-baton/core/progress/effort';
import { sumCounts } from '@kindred-baton/core/progress/tally';
import { ofCycle } from '../../../../tests/support/of-cycle.ts';
import type { TestStore } from '../../../../tests/support/test-store.ts';
import { createTestStore } from '../../../../tests/support/test-store.ts';
import type { Actor } from '../actor.ts';
import { changeProgramme } from '../programmes/change-programme.ts';
import { listTurns } from '../turns/list-turns.ts';
import { recordStep, startAttempt } from '../turns/make-attempts.ts';
import { getHolds } from './get-holds.ts';
import { getTeamProgress } from './get-team-progress.ts';

const CODE = 'ACC-2';

describe('teams side by side', () => {
  let db: TestStore;
  let lead: Actor;
  beforeAll(async () => {
    db = await createTestStore('demo');
    lead = await db.actorOf('Lea Marsh');
  });
  afterAll(() => db.drop());

  const look = (query: Record<string, string> = {}) =>
    db.ask(lead, getTeamProgress, teamProgressQuerySchema.parse({ cycle: CODE, ...query }));

  it('count what opens: every number is as many turns as its list has', async () => {
    const { teams } = await look();
    expect(teams.length).toBeGreaterThan(4);
    const count = async (more: object) => (await db.ask(lead, listTurns, { ...ofCycle(CODE), ...more })).rows.size;
    for (const { key, counts, late } of teams) {
      expect([key, await count({ team: key })]).toEqual([key, sumCounts(counts)]);
      expect([key, await count({ team: key, status: ['failed', 'blocked'] })]).toEqual([key, counts.failed + counts.blocked]);
      expect([key, await count({ team: key, late: 'yes' })]).toEqual([key, late]);
    }
    expect(teams.some(({ late }) => late > 0)).toBe(true);
  });

  it('say what waits for a team as the holds of that team do', async () => {
    for (const scope of [undefined, 'NS']) {
      const { teams } = await look(scope === undefined ? {} : { scope });
      expect(teams.some(({ keeps }) => (keeps ?? 0) > 0)).toBe(true);
      for (const { key, keeps } of teams) {
        const { waitingBehindHolds } = await db.ask(lead, getHolds, { cycle: [CODE], scope, holdsOf: key });
        expect([key, keeps]).toEqual([key, waitingBehindHolds]);
      }
    }
  });

  /** Attempt by attempt, by core's own rule, from what the database has of each. */
  async function sumAgain() {
    const { rows } = await db.store.db.execute<{ team: string; turn: string; minutes: number; moments: number[] }>(sql`
      select teams.name as team, turns.id as turn, turns.minutes,
        array_agg(extract(epoch from moment) * 1000)::float8[] as moments
      from attempts join turns on turns.id = turn_id join teams on teams.id = turns.team_id join cycles on cycles.id = turns.cycle_id,
        lateral (select started_at as moment union all select finished_at
          union all select recorded_at from step_results where attempt_id = attempts.id and recorded_at between started_at and finished_at) as moments
      where cycles.code = ${CODE} and finished_at is not null and attempts.runner_id is null
      group by teams.name, turns.id, turns.minutes, attempts.id`);
    const byTeam = new Map<string, { turns: Set<string>; planned: Map<string, number>; spentMs: number }>();
    for (const { team, turn, minutes, moments } of rows) {
      const own = byTeam.get(team) ?? { turns: new Set(), planned: new Map(), spentMs: 0 };
      own.turns.add(turn);
      own.planned.set(turn, minutes);
      own.spentMs += getSpentMs(moments, minutes);
      byTeam.set(team, own);
    }
    return byTeam;
  }

  it('say what their turns took as core adds it up, attempt by attempt', async () => {
    const [{ teams }, again] = [await look(), await sumAgain()];
    for (const { key, tried, planned, spent } of teams) {
      const own = again.get(key);
      expect([key, tried]).toEqual([key, own?.turns.size ?? 0]);
      expect(planned).toBe([...(own?.planned.values() ?? [])].reduce((sum, minutes) => sum + minutes, 0));
      expect(spent).toBeCloseTo((own?.spentMs ?? 0) / 60_000, 3);
    }
    const [all, minutes] = [teams.reduce((sum, { spent }) => sum + spent, 0), teams.reduce((sum, { planned }) => sum + planned, 0)];
    // The demo's testers take from 0.7 to 1.5 of what was planned.
    expect(all / minutes).toBeGreaterThan(0.7);
    expect(all / minutes).toBeLessThan(1.6);
  });

  it('are testers by name where the programme allows it, and nowhere else', async () => {
    await expect(look({ each: 'tester' })).rejects.toThrow('does not show testers side by side');
    expect(await look()).toMatchObject({ each: 'team', mayNameTesters: false });
    await db.perform(lead, changeProgramme, { namesTesters: true });
    const [byTeam, byTester] = [await look(), await look({ each: 'tester' })];
    expect(byTester).toMatchObject({ each: 'tester', mayNameTesters: true });
    const count = async (more: object) => (await db.ask(lead, listTurns, { ...ofCycle(CODE), ...more })).rows.size;
    for (const { key, counts, late } of byTester.teams) {
      expect([key, await count({ person: key })]).toEqual([key, sumCounts(counts)]);
      expect([key, await count({ person: key, late: 'yes' })]).toEqual([key, late]);
    }
    const total = (of: typeof byTeam, what: 'tried' | 'planned' | 'spent' | 'late') => of.teams.reduce((sum, line) => sum + line[what], 0);
    for (const what of ['tried', 'planned', 'late'] as const) expect([what, total(byTester, what)]).toEqual([what, total(byTeam, what)]);
    expect(total(byTester, 'spent')).toBeCloseTo(total(byTeam, 'spent'), 6);
    expect(byTester.teams.every(({ keeps }) => keeps === null)).toBe(true);
    await db.perform(lead, changeProgramme, { namesTesters: false });
  });

  it('take an attempt that is not over for nothing yet', async () => {
    const before = await look();
    const { rows } = await db.store.db.execute<{ turn: TurnId; person: string }>(sql`
      select turns.id as turn, people.name as person from turns join cycles on cycles.id = cycle_id join people on people.id = assignee_id
      where cycles.code = ${CODE} and status = 'ready' and version_id is not null limit 1`);
    const [actor, id] = [await db.actorOf(rows[0]!.person), randomUUID() as AttemptId];
    await db.perform(actor, startAttempt, { turnId: rows[0]!.turn, id, browser: '' });
    const word = { wordId: randomUUID(), outcome: 'passed' as const, note: '', at: new Date().toISOString() };
    await db.perform(actor, recordStep, { attemptId: id, stepIndex: 0, word }).catch(() => undefined);
    const efforts = ({ teams }: Awaited<ReturnType<typeof look>>) => teams.map(({ key, tried, spent }) => [key, tried, spent]);
    expect(efforts(await look())).toEqual(efforts(before));
  });
});
