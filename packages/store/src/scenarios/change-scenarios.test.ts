import { randomUUID } from 'node:crypto';
import type { LegId, ScenarioRowId } from '@kindred-baton/core/ids';
import { eq } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { TestStore } from '../../../../tests/support/test-store.ts';
import { createTestStore } from '../../../../tests/support/test-store.ts';
import type { Actor } from '../actor.ts';
import { runs } from '../schema/cycles.ts';
import { changeScenario, createScenario } from './change-scenarios.ts';
import { addLeg, changeLeg, removeLeg } from './change-legs.ts';
import { getScenario } from './get-scenario.ts';
import { listScenarios } from './list-scenarios.ts';

describe('editing a scenario', () => {
  let db: TestStore;
  let lead: Actor;
  beforeAll(async () => {
    db = await createTestStore('demo');
    lead = await db.actorOf('Lea Marsh');
    await db.perform(lead, createScenario, { code: 'S-1', name: 'Sketch', node: 'NS' });
  });
  afterAll(() => db.drop());

  const legs = async () => (await db.ask(lead, getScenario, 'S-1')).legs;
  const titles = async () => (await legs()).map(({ title }) => title);
  const add = async (more: { test?: string; title?: string; before?: LegId | null }) => {
    const id = randomUUID() as LegId;
    await db.perform(lead, addLeg, { code: 'S-1', leg: { id, before: null, test: null, ...more } });
    return id;
  };

  it('links tests, never copies them, and takes open legs in words', async () => {
    await add({ test: 'CUS-01' });
    const open = await add({ title: 'Walk the site' });
    await add({ test: 'FLD-01', before: open });
    expect(await titles()).toEqual(['Take the application', 'Survey the site', 'Walk the site']);
  });

  it('moves a leg before another, and to the end', async () => {
    const [first, second] = await legs();
    await db.perform(lead, changeLeg, { code: 'S-1', legId: first?.id as LegId, change: { before: null } });
    expect(await titles()).toEqual(['Survey the site', 'Walk the site', 'Take the application']);
    await db.perform(lead, changeLeg, { code: 'S-1', legId: first?.id as LegId, change: { before: second?.id as LegId } });
    expect(await titles()).toEqual(['Take the application', 'Survey the site', 'Walk the site']);
  });

  it('joins the edits of two people at once', async () => {
    await Promise.all([add({ title: 'By one' }), add({ title: 'By another' }), add({ title: 'By a third' })]);
    expect((await titles()).slice(3).sort()).toEqual(['By a third', 'By another', 'By one']);
    expect(new Set((await legs()).map(({ id }) => id)).size).toBe(6);
  });

  it('does not lose a leg that waits for, or is wired to, one that is taken out', async () => {
    const [first, second, third] = await legs();
    await db.perform(lead, changeLeg, {
      code: 'S-1',
      legId: third?.id as LegId,
      change: { after: [second?.id as LegId], wires: [{ need: 'X', from: { kind: 'leg', leg: second?.id as LegId, gives: 'X' } }] },
    });
    await db.perform(lead, removeLeg, { code: 'S-1', legId: second?.id as LegId });
    const left = await legs();
    expect(left.map(({ id }) => id)).toContain(third?.id);
    expect(left.find(({ id }) => id === third?.id)).toMatchObject({ after: null, wires: [] });
    expect(left[0]?.id).toBe(first?.id);
    await expect(db.perform(lead, removeLeg, { code: 'S-1', legId: second?.id as LegId })).rejects.toThrow(
      'somebody else may have removed it',
    );
  });

  it('stays a sketch while a leg is open', async () => {
    await expect(db.perform(lead, changeScenario, { code: 'S-1', change: { state: 'agreed' } })).rejects.toThrow('4 open legs');
  });

  it('keeps the ids of data rows, so that runs still name the row they ran', async () => {
    const before = (await db.ask(lead, getScenario, 'NS-S1')).rows;
    const [first, ...others] = before;
    const renamed = [
      { ...first, name: others[0]?.name },
      { ...others[0], name: first?.name },
      others[1],
      { name: 'New', values: {} },
    ] as typeof before;
    await db.perform(lead, changeScenario, { code: 'NS-S1', change: { rows: renamed } });
    const after = (await db.ask(lead, getScenario, 'NS-S1')).rows;
    expect(after.map(({ name }) => name)).toEqual([before[1]?.name, before[0]?.name, before[2]?.name, 'New']);
    expect(after.slice(0, 3).map(({ id }) => id)).toEqual(before.slice(0, 3).map(({ id }) => id));
    const pointing = await db.store.db
      .select({ rowId: runs.rowId })
      .from(runs)
      .where(eq(runs.rowId, first?.id as ScenarioRowId));
    expect(pointing.length).toBeGreaterThan(0);
  });

  it('is listed with what its wiring says; the demo’s sketch has one need that nothing gives', async () => {
    const { scenarios } = await db.ask(lead, listScenarios, undefined);
    expect(scenarios.find(({ code }) => code === 'PU-S2')).toMatchObject({ state: 'sketch', openLegs: 2, errors: 1 });
    expect(scenarios.filter(({ code, errors }) => errors > 0 && code !== 'PU-S2' && code !== 'S-1').map(({ code }) => code)).toEqual([]);
  });
});
