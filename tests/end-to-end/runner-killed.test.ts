import { readdirSync } from 'node:fs';
import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { getActor } from '@kindred-baton/store/actor';
import { staffCycle } from '@kindred-baton/store/cycles/staff-cycle';
import { getPlan } from '@kindred-baton/store/cycles/get-plan';
import { moveCycle } from '@kindred-baton/store/cycles/move-cycle';
import { ask, perform } from '@kindred-baton/store/operation';
import { checkRuns } from '@kindred-baton/store/runs/check-runs';
import { getRunners } from '@kindred-baton/store/runners/get-runners';
import { retireRunner } from '@kindred-baton/store/runners/runners';
import { people } from '@kindred-baton/store/schema/people';
import { eq } from 'drizzle-orm';
import type { Actor } from '@kindred-baton/store/actor';
import type { RunnerHouse } from '../support/runner-house.ts';
import { openRunnerHouse } from '../support/runner-house.ts';

const PATIENCE_MS = 300_000;

/** Processes that end without a word, at every step there is. */
describe('a runner that is killed', { timeout: 600_000 }, () => {
  let house: RunnerHouse;
  let lead: Actor;
  beforeAll(async () => {
    house = await openRunnerHouse();
    const [person] = await house.store.db.select().from(people).where(eq(people.name, 'Lea Marsh'));
    lead = await getActor(house.store, person!.id, 'brindlemere');
    const { pools } = await ask(house.store, lead, getRunners, undefined);
    const plan = await ask(house.store, lead, getPlan, 'REG-4.2');
    // Whole chains: however quick a runner is in one test, there is a turn left for the next.
    const turns = plan.turns.map(({ id }) => id);
    await perform(house.store, lead, staffCycle, { code: 'REG-4.2', staff: { kind: 'give', turns, personId: pools[0]!.id } });
    await perform(house.store, lead, moveCycle, { code: 'REG-4.2', from: 'planning', to: 'open' });
  });
  afterAll(() => house.close());

  const rows = async <Row extends Record<string, unknown>>(query: ReturnType<typeof sql>) =>
    (await house.store.db.execute<Row>(query)).rows;
  const until = async <Found>(look: () => Promise<Found | undefined | false>): Promise<Found> => {
    const end = Date.now() + PATIENCE_MS;
    for (;;) {
      const found = await look();
      if (found) return found;
      if (Date.now() > end) throw new Error(`It did not come.\n${house.readLog().slice(-3_000)}`);
      await new Promise((resolve) => setTimeout(resolve, 25));
    }
  };
  const start = () => house.startRunner({ KINDRED_BATON_RUNNER_SESSIONS: '1', KINDRED_BATON_RUNNER_PATIENCE_SECONDS: '5' });
  const listBrowsers = () => readdirSync(`${house.folder}/runner`).filter((name) => name.startsWith('kindred-baton-runner-'));
  const now = async () => (await ask(house.store, lead, getRunners, undefined)).runners[0]?.now[0];

  it('at every step in turn loses nothing and doubles nothing: its attempts are kept as far as they came, and the turns are done by the next', async () => {
    const killed: string[] = [];
    for (let step = 0; step < 4; step += 1) {
      const runner = start();
      const doing = await until(async () => {
        const one = await now();
        return one && !killed.includes(one.attempt) && one.step >= step ? one : false;
      });
      await runner.end('SIGKILL');
      killed.push(doing.attempt);
    }
    const said = house.readLog().length;
    const last = start();
    await until(async () => {
      if (!house.readLog().slice(said).includes('"outcome":"passed"')) return false;
      const open = await rows(sql`select 1 from leases where attempt_id = any(${sql.param(killed)}::uuid[])`);
      const done = await rows(sql`select 1 from attempts where outcome = 'passed' and runner_id is not null`);
      return open.length === 0 && done.length >= 4;
    });
    const ended = await rows<{ outcome: string; steps: string; notes: string }>(sql`
      select outcome, (select count(*) from step_results where attempt_id = attempts.id and outcome = 'passed') as steps,
        (select string_agg(note, ' ') from step_results where attempt_id = attempts.id) as notes
      from attempts where id = any(${sql.param(killed)}::uuid[]) order by started_at`);
    // One whose end was written already is sent by the next process: that is no break.
    const broken = ended.filter(({ outcome }) => outcome === 'blocked');
    expect(ended.filter(({ outcome }) => outcome !== 'blocked' && outcome !== 'passed')).toEqual([]);
    expect(broken.length).toBeGreaterThanOrEqual(2);
    for (const { notes } of broken) expect(notes).toMatch(/left it in the middle|was not heard|Nothing was heard/);
    // Each word was said once; a process that came after sent what the one before had not.
    const doubled = await rows(sql`select word_id from step_results group by word_id having count(*) > 1`);
    const pictures = await rows(sql`
      select attempt_id, step_index from evidence where added_by in (select id from pools) group by attempt_id, step_index having count(*) > 1`);
    const gaps = await rows(sql`
      select a.id from attempts a where a.runner_id is not null and a.outcome = 'passed'
        and (select count(*) from step_results r where r.attempt_id = a.id) <>
          (select jsonb_array_length(v.steps) from test_versions v where v.id = a.version_id)`);
    expect([doubled, pictures, gaps]).toEqual([[], [], []]);
    // Browsers of those that were killed are gone, with their folders; the last one takes its own along.
    expect(listBrowsers()).toHaveLength(1);
    await last.end();
    expect(listBrowsers()).toEqual([]);
    expect((await rows(sql`select 1 from captures`)).length).toBeGreaterThan(4);
    expect(await checkRuns(house.store.db)).toEqual([]);
  });

  it('or whose server goes away in the middle goes on by itself when it is back', async () => {
    const runner = start();
    // Handed out is not begun: an answer that the dying server no longer sends is given out again, and is no turn in the middle.
    const doing = await until(async () => {
      const one = await now();
      return one && house.readLog().includes(one.attempt) ? one : false;
    });
    await house.restartServer();
    const [done] = await until(async () => {
      const found = await rows<{ outcome: string; notes: string }>(
        sql`select outcome, (select trim(coalesce(string_agg(note, ' '), '')) from step_results where attempt_id = attempts.id) as notes
          from attempts where id = ${doing.attempt} and finished_at is not null`,
      );
      return found.length > 0 ? found : false;
    });
    expect(done).toEqual({ outcome: 'passed', notes: '' });
    await runner.end();
  });

  it('or whose token is withdrawn stops at once and says why; one with a token that is used elsewhere does not begin', async () => {
    const said = house.readLog().length;
    const runner = start();
    await until(async () => house.readLog().slice(said).includes('begun'));
    const other = house.startRunner({ KINDRED_BATON_RUNNER_FOLDER: `${house.folder}/other` });
    expect(await other.end('SIGCONT')).toBe(3);
    expect(house.readLog()).toContain('Each runner has a token of its own');
    const { runners } = await ask(house.store, lead, getRunners, undefined);
    await perform(house.store, lead, retireRunner, runners[0]!.id, ['programme', 'runners', 'turns']);
    expect(await runner.end('SIGCONT')).toBe(3);
    expect(house.readLog()).toContain('withdrawn');
    expect(await rows(sql`select 1 from leases`)).toEqual([]);
  });
});
