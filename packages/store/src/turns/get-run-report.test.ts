import type { RunId, TurnId } from '@kindred-baton/core/ids';
import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { TestStore } from '../../../../tests/support/test-store.ts';
import { createTestStore } from '../../../../tests/support/test-store.ts';
import type { Actor } from '../actor.ts';
import { getReportedLeg, getRunReport } from './get-run-report.ts';

/** Whatever the number of legs and attempts. */
const MOST_QUERIES = 22;

describe('a run as a report', () => {
  let db: TestStore;
  let lead: Actor;
  beforeAll(async () => {
    db = await createTestStore('demo');
    lead = await db.actorOf('Lea Marsh');
  });
  afterAll(() => db.drop());

  /** The run of the open cycle with the most attempts. */
  const findRun = async () => {
    const { rows } = await db.store.db.execute<{ id: RunId; legs: number; attempts: number; words: number; files: number }>(sql`
      select r.id, (select count(*)::int from turns where run_id = r.id) as legs,
        count(a.id)::int as attempts,
        (select count(*)::int from step_results s join attempts b on b.id = s.attempt_id join turns u on u.id = b.turn_id where u.run_id = r.id) as words,
        (select count(*)::int from evidence e join attempts b on b.id = e.attempt_id join turns u on u.id = b.turn_id where u.run_id = r.id) as files
      from runs r join cycles c on c.id = r.cycle_id join turns t on t.run_id = r.id join attempts a on a.turn_id = t.id
      where c.code = 'ACC-2' group by r.id order by count(a.id) desc, r.id limit 1`);
    return rows[0]!;
  };

  it('has every leg, attempt, word and file of it, counted by SQL, in a fixed number of queries', async () => {
    const run = await findRun();
    db.queries.length = 0;
    const report = await db.ask(lead, getRunReport, run.id);
    expect(db.queries.length).toBeLessThanOrEqual(MOST_QUERIES);
    const attempts = report.legs.flatMap((leg) => leg.attempts);
    expect([
      report.legs.length,
      attempts.length,
      attempts.flatMap(({ results }) => results).length,
      attempts.flatMap(({ evidence }) => evidence).length,
    ]).toEqual([run.legs, run.attempts, run.words, run.files]);
    expect(report.legs.map(({ turn }) => turn.leg)).toEqual(report.legs.map((_, at) => at + 1));
    for (const { name, value, index } of report.baton)
      expect(report.legs[index]?.attempts.some(({ outcome, kept }) => outcome === 'passed' && kept[name] === value)).toBe(true);
    const { rows } = await db.store.db.execute<{ id: RunId }>(
      sql`select run_id as id from turns where run_id <> ${run.id} group by 1 order by count(*), 1 limit 1`,
    );
    db.queries.length = 0;
    await db.ask(lead, getRunReport, rows[0]!.id);
    expect(db.queries.length).toBeLessThanOrEqual(MOST_QUERIES);
  });

  it('tells each attempt by the steps of the version that was done in it', async () => {
    const { rows } = await db.store.db.execute<{ turn: TurnId; version: string }>(sql`
      select distinct on (t.test_id) t.id as turn, v.id as version from turns t join attempts a on a.turn_id = t.id
      join test_versions v on v.test_id = t.test_id and v.id <> a.version_id order by t.test_id limit 1`);
    const [own] = rows;
    const before = await db.ask(lead, getReportedLeg, own!.turn);
    await db.store.db.execute(sql`update turns set version_id = ${own!.version} where id = ${own!.turn}`);
    const after = await db.ask(lead, getReportedLeg, own!.turn);
    expect(after.attempts.map(({ steps }) => steps)).toEqual(before.attempts.map(({ steps }) => steps));
  });

  it('of another programme is not there', async () => {
    const missing = '00000000-0000-4000-8000-000000000000';
    await expect(db.ask(lead, getRunReport, missing as RunId)).rejects.toThrow('There is no such run in this programme.');
    await expect(db.ask(lead, getReportedLeg, missing as TurnId)).rejects.toThrow('There is no such turn in this programme.');
  });
});
