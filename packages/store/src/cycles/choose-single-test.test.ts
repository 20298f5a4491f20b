import { eq } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { TestStore } from '../../../../tests/support/test-store.ts';
import { createTestStore } from '../../../../tests/support/test-store.ts';
import type { Actor } from '../actor.ts';
import { editScenario } from '../scenarios/edit-scenario.ts';
import { listScenarios } from '../scenarios/list-scenarios.ts';
import { getMap } from '../map/get-map.ts';
import { agreeTest, saveTest } from '../tests/change-tests.ts';
import { getTest } from '../tests/get-test.ts';
import { environments } from '../schema/programmes.ts';
import { testVersions, tests } from '../schema/tests.ts';
import { checkRuns } from '../runs/check-runs.ts';
import { createCycle } from './change-cycles.ts';
import { chooseSingleTest } from './choose-single-test.ts';
import { getCycle } from './get-cycle.ts';
import { listRuns } from './list-runs.ts';
import { getCycleScope } from './get-cycle-scope.ts';
import { getPlan } from './get-plan.ts';
import { moveCycle } from './move-cycle.ts';

describe('a single test in a cycle', () => {
  let db: TestStore;
  let lead: Actor;
  let withRows: string;
  let without: string;
  beforeAll(async () => {
    db = await createTestStore('demo');
    lead = await db.actorOf('Lea Marsh');
    const rows = await db.store.db
      .select({ code: tests.code, needs: testVersions.needs, rows: testVersions.rows })
      .from(tests)
      .innerJoin(testVersions, eq(testVersions.testId, tests.id))
      .where(eq(testVersions.state, 'agreed'))
      .orderBy(tests.code);
    // A test gets two data rows of its own that give all that it needs.
    withRows = rows.find(({ needs }) => needs.length > 0 && needs.every(({ type }) => type === 'text'))?.code ?? '';
    const { version, name, minutes } = await db.ask(lead, getTest, { code: withRows });
    const { number, revision, steps, needs, gives } = version;
    const own = ['A', 'B'].map((row) => ({
      name: row,
      values: Object.fromEntries(needs.map((need) => [need.name, `${need.name} ${row}`])),
    }));
    const saved = await db.perform(lead, saveTest, {
      code: withRows,
      save: { base: { number, revision }, name, minutes, steps, needs, gives, rows: own } as never,
    });
    await db.perform(lead, agreeTest, { code: withRows, ...saved });
    without = rows.find(({ needs, rows: own }) => needs.length > 0 && own.length === 0)?.code ?? '';
  });
  afterAll(() => db.drop());

  it('is a run of one leg for each of its own data rows, with their values', async () => {
    const [before, map] = [await db.ask(lead, listScenarios, { page: 1 }), await db.ask(lead, getMap, undefined)];
    const single = await db.perform(lead, chooseSingleTest, withRows);
    expect(single).toMatchObject({ isSingleTest: true, code: withRows, legs: 1, openLegs: 0, errors: 0 });
    expect(single.rows.map(({ name }) => name)).toEqual(['A', 'B']);
    // It is chosen once, and again as the same.
    expect(await db.perform(lead, chooseSingleTest, withRows)).toEqual(single);
    expect((await db.ask(lead, getCycleScope, undefined)).scenarios.filter(({ isSingleTest }) => isSingleTest)).toEqual([single]);
    // Nobody drew it: it is listed and counted nowhere.
    expect((await db.ask(lead, listScenarios, { page: 1 })).total).toBe(before.total);
    expect((await db.ask(lead, getMap, undefined)).totals).toEqual(map.totals);
    await expect(db.perform(lead, editScenario, { code: withRows, edits: [] })).rejects.toThrow('it follows the test');

    const [environment] = await db.store.db.select().from(environments).limit(1);
    await db.perform(lead, createCycle, {
      ...{ code: 'ONE-1', name: 'One test', purpose: 'smoke', environmentId: environment?.id as never, ownerId: lead.personId },
      ...{ startsOn: '2026-12-01', endsOn: '2026-12-11', scope: [{ scenarioId: single.id, rowIds: single.rows.map(({ id }) => id) }] },
    } as never);
    await db.perform(lead, moveCycle, { code: 'ONE-1', from: 'planning', to: 'open' });
    const cycle = await db.ask(lead, getCycle, 'ONE-1');
    const { runs } = await db.ask(lead, listRuns, { code: 'ONE-1', page: 1 });
    expect(runs.map(({ rowName, turns }) => [rowName, turns.length])).toEqual(single.rows.map(({ name }) => [name, 1]));
    expect(cycle.counts.ready).toBe(single.rows.length);
    expect((await db.ask(lead, getPlan, 'ONE-1')).turns).toHaveLength(single.rows.length);
    expect(await checkRuns(db.store.db)).toEqual([]);
  });

  it('says what it lacks where nothing gives its needs, and which have no agreed version', async () => {
    await expect(db.perform(lead, chooseSingleTest, without)).rejects.toThrow(/ needs .*, and no data row of its own gives/);
    await expect(db.perform(lead, chooseSingleTest, 'NOPE')).rejects.toThrow('Test NOPE has no agreed version');
  });
});
