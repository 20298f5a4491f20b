import { randomUUID } from 'node:crypto';
import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { stepTriesQuerySchema, wrongStepsQuerySchema } from '@kindred-baton/contracts/progress/wrong-steps';
import type { WrongSteps, WrongStepView } from '@kindred-baton/contracts/progress/wrong-steps';
import type { AttemptId, TurnId } from '@kindred-baton/core/ids';
import type { TestStore } from '../../../../tests/support/test-store.ts';
import { createTestStore } from '../../../../tests/support/test-store.ts';
import type { Actor } from '../actor.ts';
import { finishAttempt, recordStep, startAttempt } from '../turns/make-attempts.ts';
import { nudge } from '../turns/nudge.ts';
import { getStepTries, getWrongSteps } from './get-wrong-steps.ts';

describe('where it goes wrong', () => {
  let db: TestStore;
  let lead: Actor;
  beforeAll(async () => {
    db = await createTestStore('demo');
    lead = await db.actorOf('Lea Marsh');
  });
  afterAll(() => db.drop());

  const look = (query: Record<string, string> = {}) => db.ask(lead, getWrongSteps, wrongStepsQuerySchema.parse(query));
  const triesOf = ({ test, version, index }: Pick<WrongStepView, 'test' | 'version' | 'index'>) =>
    db.ask(lead, getStepTries, stepTriesQuerySchema.parse({ test: test.code, version, index }));
  const errorsOf = (step: Pick<WrongStepView, 'failed' | 'blocked'>) => step.failed + step.blocked;

  /** By test and sentence of the newest version, counted by a statement of its own from what the attempts say. */
  async function countAgain() {
    const { rows } = await db.store.db.execute<{ code: string; index: number; version: number; tries: number; errors: number }>(sql`
      select tests.code, step_index as index, test_versions.number as version, count(*)::int as tries,
        count(*) filter (where step_results.outcome <> 'passed')::int as errors
      from step_results
        join attempts on attempts.id = attempt_id join turns on turns.id = turn_id join runs on runs.id = run_id
        join cycles on cycles.id = runs.cycle_id join tests on tests.id = turns.test_id join test_versions on test_versions.id = attempts.version_id
      where cycles.code = 'ACC-2' and coalesce(runs.left_to::text, '') <> 'taken out' and step_results.outcome in ('passed', 'failed', 'blocked')
      group by 1, 2, 3`);
    return rows;
  }

  const sum = (of: readonly number[]) => of.reduce((a, b) => a + b, 0);
  const total = ({ steps, tries, errors }: WrongSteps) => ({ steps, tries, errors });

  it('counts every try once, at its step, as counting them another way does', async () => {
    const [view, again] = [await look(), await countAgain()];
    expect(view.errors).toBe(sum(again.map(({ errors }) => errors)));
    expect(view.tries).toBe(sum(again.map(({ tries }) => tries)));
    expect(view.errors).toBeGreaterThan(20);
    expect(sum(view.wrong.map(errorsOf))).toBe(view.errors);
    for (const step of view.wrong.filter(({ versions }) => versions.length === 0)) {
      const own = again.find(({ code, index, version }) => code === step.test.code && index === step.index && version === step.version);
      expect([step.sentence, step.tries, errorsOf(step)]).toEqual([step.sentence, own?.tries, own?.errors]);
    }
    expect(view.errorsOfTen).toBe(sum(view.wrong.slice(0, 10).map(errorsOf)));
  });

  it('is the sum of its branches, and of people and runners', async () => {
    const all = await look();
    const branches = await Promise.all(['NS', 'LR', 'RB', 'MI', 'PU'].map((scope) => look({ scope })));
    expect(sum(branches.map(({ errors }) => errors))).toBe(all.errors);
    expect(sum(branches.map(({ tries }) => tries))).toBe(all.tries);
    const hands = await Promise.all(['people', 'runners'].map((by) => look({ by })));
    expect(sum(hands.map(({ errors }) => errors))).toBe(all.errors);
  });

  it('ranks by what is wrong at least, and says what waits behind a step and which defects are on it', async () => {
    const { wrong } = await look();
    expect(wrong.map(({ low }) => low)).toEqual(wrong.map(({ low }) => low).sort((a, b) => b - a));
    const known = wrong.find(({ defects }) => defects.some(({ title }) => title === 'Quote is priced in the wrong band'));
    expect(known?.test.code).toMatch(/^BIL-/);
    expect(known?.waiting.turns).toBeGreaterThan(0);
    const detail = await triesOf(known!);
    expect(detail.step).toEqual(known);
    expect(sum(detail.seen.map(({ tries }) => tries)) + detail.otherSeen).toBe(errorsOf(known!));
    expect(detail.wrong).toHaveLength(Math.min(40, errorsOf(known!)));
    expect(detail.holds.map(({ kind }) => kind)).toContain('defect');
  });

  it('counts the same errors by field or button and by screen; each opens the steps that make it', async () => {
    const all = await look();
    for (const each of ['target', 'screen'] as const) {
      const { things, unplaced, errors, tries, rows } = await look({ each });
      expect(rows.size).toBe(things.length);
      expect(sum(things.map(errorsOf)) + unplaced).toBe(errors);
      expect([errors, tries]).toEqual([all.errors, all.tries]);
      for (const thing of things.slice(0, 8)) {
        const { wrong, only } = await look({ [each]: thing.key });
        expect([thing.name, wrong.length, sum(wrong.map(errorsOf))]).toEqual([thing.name, thing.wrongSteps, errorsOf(thing)]);
        expect([only?.each, only?.name.toLowerCase()]).toEqual([each, thing.name.toLowerCase()]);
        // By a statement of its own: every try at a step of that name in the application.
        if (each === 'target') {
          const { rows: counted } = await db.store.db.execute<{ tries: number }>(sql`
            select count(*)::int as tries from step_results r join attempts a on a.id = r.attempt_id join turns t on t.id = a.turn_id
              join cycles c on c.id = t.cycle_id join runs u on u.id = t.run_id join test_versions v on v.id = a.version_id
              join tests e on e.id = v.test_id left join applications p on p.id = e.application_id
            where c.code = 'ACC-2' and coalesce(u.left_to::text, '') <> 'taken out' and r.outcome in ('passed', 'failed', 'blocked')
              and lower(v.steps->r.step_index->>'target') = ${thing.name.toLowerCase()} and p.name = ${thing.application}`);
          expect([thing.name, counted[0]?.tries]).toEqual([thing.name, thing.tries]);
        }
      }
    }
    expect(await look({ target: 'nowhere/nothing' })).toMatchObject({ wrong: [], only: { each: 'target', name: 'nowhere/nothing' } });
  });

  it('shows everything, page by page', async () => {
    const first = await look();
    expect(first.rows.size).toBe(first.wrong.length);
    expect((await look({ page: '7' })).rows.page).toBe(1);
  });

  it('does not count again what an attempt took over from the one that it goes on from', async () => {
    const before = await look();
    const { rows } = await db.store.db.execute<{ turn: TurnId; attempt: AttemptId; steps: number; person: string }>(sql`
      select turns.id as turn, attempts.id as attempt, people.name as person, jsonb_array_length(test_versions.steps) as steps
      from turns join cycles on cycles.id = turns.cycle_id join people on people.id = turns.assignee_id
        join attempts on attempts.turn_id = turns.id join test_versions on test_versions.id = attempts.version_id
      where cycles.code = 'ACC-2' and turns.status = 'blocked' and attempts.outcome = 'blocked' limit 1`);
    const [blocked] = rows;
    expect(blocked).toBeDefined();
    const [id, actor] = [randomUUID() as AttemptId, await db.actorOf(blocked!.person)];
    await db.perform(actor, startAttempt, { turnId: blocked!.turn, id, browser: '', continues: blocked!.attempt });
    expect(total(await look())).toEqual(total(before));
    const word = { wordId: randomUUID(), outcome: 'failed' as const, note: 'Something else.', at: new Date().toISOString() };
    await db.perform(actor, recordStep, { attemptId: id, stepIndex: blocked!.steps - 1, word });
    await db.perform(actor, finishAttempt, id).catch(() => undefined);
    const after = await look();
    expect([after.tries - before.tries, after.errors - before.errors]).toEqual([1, 1]);
  });

  it('says so where nothing went wrong at a step, and where there is no such cycle', async () => {
    await expect(triesOf({ test: { code: 'CUS-01', name: '' }, version: 99, index: 0 })).rejects.toThrow(
      /Nothing went wrong at step 1 of CUS-01/,
    );
    await expect(look({ cycle: 'NO-1' })).rejects.toThrow('There is no cycle NO-1.');
  });

  it('says with whom it is, and a word from there reaches whoever fixes it, once a day', async () => {
    const karim = await db.actorOf('Karim Bol');
    await db.store.db.execute(sql`update defects set assignee_id = ${karim.personId} where code = 'TQ-203'`);
    const steps = (await look()).wrong.filter(({ defects }) => defects.some(({ isOpen }) => isOpen));
    const told = await Promise.all(steps.map(triesOf));
    const asked = told.flatMap((one) => one.asked);
    expect(asked.length).toBeGreaterThan(3);
    const { rows } = await db.store.db.execute<{ code: string; name: string | null }>(sql`
      select defects.code, people.name from defects left join people on people.id = assignee_id where status in ('new', 'accepted')`);
    const fixerOf = new Map(rows.map(({ code, name }) => [code, name]));
    for (const { defect, person } of asked) if (defect !== null) expect([defect, person]).toEqual([defect, fixerOf.get(defect)]);
    const one = asked.find(({ person, defect }) => person !== null && defect !== null)!;
    expect(await db.perform(lead, nudge, one.turn)).toEqual({ count: one.nudges + 1, to: one.person });
    const mail = await db.store.db.execute<{ subject: string }>(sql`select subject from mails order by created_at desc limit 1`);
    expect(mail.rows[0]?.subject).toBe(`Lea Marsh waits for ${one.defect}`);
    await expect(db.perform(lead, nudge, one.turn)).rejects.toThrow('within the last day');
    const again = await Promise.all(steps.map(triesOf));
    expect(again.flatMap((other) => other.asked).find(({ turn }) => turn === one.turn)?.nudges).toBe(one.nudges + 1);
    const nobody = asked.find(({ person }) => person === null);
    if (nobody) await expect(db.perform(lead, nudge, nobody.turn)).rejects.toThrow(`Nobody fixes ${nobody.defect} yet`);
  });
});
