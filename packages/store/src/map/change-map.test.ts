import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { TestStore } from '../../../../tests/support/test-store.ts';
import { createTestStore } from '../../../../tests/support/test-store.ts';
import type { Actor } from '../actor.ts';
import { addNode, changeNode } from './change-map.ts';
import { getMap } from './get-map.ts';
import { getNode } from './get-node.ts';
import { getStrip } from './get-strip.ts';

describe('the map', () => {
  let db: TestStore;
  let lead: Actor;
  beforeAll(async () => {
    db = await createTestStore('demo');
    lead = await db.actorOf('Lea Marsh');
  });
  afterAll(() => db.drop());

  it('stands in order, parents before children, with numbers summed up the tree', async () => {
    const { nodes, totals } = await db.ask(lead, getMap, undefined);
    expect(nodes.slice(0, 3).map(({ code, depth }) => [code, depth])).toEqual([
      ['NS', 0],
      ['NS-1', 1],
      ['NS-1.1', 2],
    ]);
    const at = (code: string) => nodes.find((node) => node.code === code);
    const below = nodes.filter((node) => node.code.startsWith('NS-2.'));
    expect(at('NS-2')?.requirements).toBe(below.reduce((sum, node) => sum + node.requirements, 0));
    expect(nodes.filter(({ depth }) => depth === 0).reduce((sum, node) => sum + node.tests, 0)).toBe(totals.tests);
    // A scenario that passes two activities of a process counts there once.
    expect(at('NS')?.scenarios).toBe(6);
  });

  it('takes a node below another, at the end, with its parent’s team', async () => {
    await db.perform(lead, addNode, { parent: 'NS-2', code: 'NS-2.6', name: 'Explain a quote' });
    const { nodes } = await db.ask(lead, getMap, undefined);
    const place = nodes.findIndex(({ code }) => code === 'NS-2.6');
    expect(nodes[place - 1]?.code).toBe('NS-2.5');
    expect(nodes[place]).toMatchObject({ team: 'Billing', application: 'Millrace Billing', depth: 2 });
  });

  it('says what does not go: a code that is taken, a parent that is not there, a level too deep', async () => {
    await expect(db.perform(lead, addNode, { parent: null, code: 'NS', name: 'Again' })).rejects.toThrow(
      'That code is already on the map. Choose another.',
    );
    await expect(db.perform(lead, addNode, { parent: 'NOPE', code: 'N-1', name: 'N' })).rejects.toThrow(
      'There is no node NOPE on the map.',
    );
    await expect(db.perform(lead, addNode, { parent: 'NS-2.1', code: 'N-1', name: 'N' })).rejects.toThrow(
      'is on the lowest level (activity); nothing goes below it.',
    );
  });

  it('changes only what is asked, and notes it in the history', async () => {
    await db.perform(lead, changeNode, { code: 'NS-2.6', change: { name: 'Explain the quote', isCritical: true } });
    const node = await db.ask(lead, getNode, 'NS-2.6');
    expect(node).toMatchObject({ name: 'Explain the quote', isCritical: true, level: 'activity', team: { name: 'Billing' } });
    const noted = await db.store.db.execute<{ action: string }>(sql`select action from history where subject = 'node' order by id`);
    expect(noted.rows.map(({ action }) => action)).toEqual(['added', 'changed']);
  });

  it('tells what hangs on a node, those below it included, with the newest outcomes', async () => {
    const node = await db.ask(lead, getNode, 'NS-2');
    expect(node.tests.map(({ code }) => code)).toContain('FIN-01');
    expect(node.scenarios).toHaveLength(6);
    expect(node.requirements.find(({ code }) => code === 'RQ-014')?.state).toBe('not yet');
    expect(new Set(node.requirements.map(({ state }) => state)).size).toBeGreaterThan(1);
  });

  it('has a strip in the same order, each parent before its children', async () => {
    const [{ nodes }, { nodes: mapped }] = await Promise.all([db.ask(lead, getStrip, undefined), db.ask(lead, getMap, undefined)]);
    expect(nodes.map(({ code }) => code)).toEqual(mapped.map(({ code }) => code));
    expect(nodes.every(({ parent }, place) => parent < place)).toBe(true);
  });
});
