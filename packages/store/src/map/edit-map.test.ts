import { unpackStrip } from '@kindred-baton/core/progress/strip';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { TestStore } from '../../../../tests/support/test-store.ts';
import { createTestStore } from '../../../../tests/support/test-store.ts';
import type { Actor } from '../actor.ts';
import { changeLevels, editMap, moveHangs } from './edit-map.ts';
import { getHangs } from './get-hangs.ts';
import { getMapChanges } from './get-map-changes.ts';
import { getMap, getMapStart } from './get-map.ts';
import { getNode } from './get-node.ts';
import { getOutline } from './get-outline.ts';
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
    // A page of a long map begins with a part of it, and counts the rest.
    const begins = await db.ask(lead, getMapStart, { scope: 'LR' });
    const from = nodes.findIndex(({ code }) => code === 'LR');
    expect(nodes.length > 150 ? begins.nodes : nodes).toEqual(nodes.length > 150 ? nodes.slice(from, from + 150) : begins.nodes);
    expect(begins.nodes.length + begins.more.nodes).toBe(nodes.length);
    expect(nodes.filter(({ depth }) => depth === 0).reduce((sum, node) => sum + node.tests, 0)).toBe(totals.tests);
    // A scenario that passes two activities of a process counts there once.
    expect(at('NS')?.scenarios).toBe(6);
  });

  const add = (code: string, parent: string | null, name = code) => ({ kind: 'add' as const, code, parent, name, at: 99 });

  it('takes a node below another, at the end, with its parent’s team', async () => {
    await db.perform(lead, editMap, { edits: [add('NS-2.6', 'NS-2', 'Explain a quote')] });
    const { nodes } = await db.ask(lead, getMap, undefined);
    const place = nodes.findIndex(({ code }) => code === 'NS-2.6');
    expect(nodes[place - 1]?.code).toBe('NS-2.5');
    expect(nodes[place]).toMatchObject({ team: 'Billing', application: 'Millrace Billing', depth: 2, isChanged: true });
  });

  it('says what does not go: a code that is taken, a parent that is not there, a level too deep, a team that is none', async () => {
    const refuse = (edit: Parameters<typeof editMap.run>[1]['edits'][number]) =>
      db.perform(lead, editMap, { edits: [add('OK-1', null), edit] });
    await expect(refuse(add('NS', null, 'Again'))).rejects.toThrow('The code NS is taken by New supply. Choose another.');
    await expect(refuse(add('N-1', 'NOPE'))).rejects.toThrow('There is no node NOPE on the map.');
    await expect(refuse(add('N-1', 'NS-2.1'))).rejects.toThrow('is on the lowest level (activity); nothing goes below it.');
    await expect(refuse({ kind: 'move', places: [{ code: 'NS', parent: 'NS-2', at: 0 }] })).rejects.toThrow('cannot go below itself');
    await expect(refuse({ kind: 'change', code: 'NS', change: { team: 'Nobody' } })).rejects.toThrow('no team “Nobody”');
    expect((await db.ask(lead, getMap, undefined)).nodes.some(({ code }) => code === 'OK-1')).toBe(false);
  });

  it('changes only what is asked, gives what undoes it, and notes both in the history', async () => {
    const { undo } = await db.perform(lead, editMap, {
      edits: [
        { kind: 'change', code: 'NS-2.6', change: { name: 'Explain the quote', isCritical: true, owner: 'Lea Marsh' } },
        { kind: 'change', code: 'NS-2.6', change: { code: 'NS-2.60' } },
      ],
    });
    const node = await db.ask(lead, getNode, 'NS-2.60');
    expect(node).toMatchObject({ name: 'Explain the quote', isCritical: true, level: 'activity', team: { name: 'Billing' } });
    expect(node.history.map(({ action }) => action)).toEqual(['changed', 'added']);
    expect(node.history[0]?.details.map(({ field }) => field)).toEqual(['code', 'name', 'owner', 'critical']);
    await db.perform(lead, editMap, { edits: undo });
    expect(await db.ask(lead, getNode, 'NS-2.6')).toMatchObject({ name: 'Explain a quote', isCritical: false, owner: null });
  });

  it('moves branches and puts them back where they were', async () => {
    const order = async () => (await db.ask(lead, getMap, undefined)).nodes.map(({ code, depth }) => `${depth} ${code}`);
    const before = await order();
    const places = ['NS-1', 'NS-3'].map((code, index) => ({ code, parent: 'LR', at: index }));
    const { undo } = await db.perform(lead, editMap, { edits: [{ kind: 'move', places }] });
    expect((await order()).slice(0, 2)).toEqual(['0 NS', '1 NS-2']);
    await db.perform(lead, editMap, { edits: undo });
    expect(await order()).toEqual(before);
  });

  it('lets a branch and one below it change places, refuses a circle, and loses no node', async () => {
    const order = async () => (await db.ask(lead, getMap, undefined)).nodes.map(({ code, depth }) => `${depth} ${code}`);
    const before = await order();
    const move = (...places: [string, string | null, number][]) =>
      db.perform(lead, editMap, { edits: [{ kind: 'move', places: places.map(([code, parent, at]) => ({ code, parent, at })) }] });
    await expect(move(['NS-1', 'NS-2', 0], ['NS-2', 'NS-1', 0])).rejects.toThrow('cannot go below itself');
    expect(await order()).toEqual(before);
    await db.perform(lead, editMap, { edits: [add('SW', null), add('SW-1', 'SW')] });
    const { undo } = await move(['SW-1', null, 0], ['SW', 'SW-1', 0]);
    expect((await order()).slice(0, 2)).toEqual(['0 SW-1', '1 SW']);
    await db.perform(lead, editMap, { edits: undo });
    await db.perform(lead, editMap, { edits: [{ kind: 'remove', codes: ['SW'] }] });
    expect(await order()).toEqual(before);
  });

  it('lets two nodes swap their codes', async () => {
    const rename = (code: string, next: string) => ({ kind: 'change' as const, code, change: { code: next } });
    const { undo } = await db.perform(lead, editMap, { edits: [rename('NS-1.1', 'X'), rename('NS-1.2', 'NS-1.1'), rename('X', 'NS-1.2')] });
    await db.perform(lead, editMap, { edits: undo });
  });

  it('removes what nothing hangs on; else says what does, and lets it be moved or retired', async () => {
    await db.perform(lead, editMap, { edits: [{ kind: 'remove', codes: ['NS-2.6'] }] });
    await expect(db.perform(lead, editMap, { edits: [{ kind: 'remove', codes: ['PU-2.1'] }] })).rejects.toThrow(
      /cannot be removed: .*1 requirement/,
    );
    const hangs = await db.ask(lead, getHangs, { codes: ['PU-2.1'] });
    expect(hangs.requirements).toHaveLength(1);
    expect((await db.perform(lead, moveHangs, { codes: ['PU-2.1'], to: 'PU-2.2' })).moved).toBeGreaterThan(0);
    await db.perform(lead, editMap, { edits: [{ kind: 'change', code: 'PU-2.1', change: { isRetired: true } }] });
    const node = await db.ask(lead, getNode, 'PU-2.1');
    expect([node.isRetired, node.tests, node.requirements]).toEqual([true, [], []]);
  });

  it('has its own level names and code scheme, but not fewer levels than it uses', async () => {
    const codeScheme = ['{initials}', '{parent}.99'];
    await expect(db.perform(lead, changeLevels, { levels: ['one', 'two'], codeScheme })).rejects.toThrow('uses 3 levels');
    await expect(db.perform(lead, changeLevels, { levels: ['a', 'b', 'c'], codeScheme: ['plain'] })).rejects.toThrow('neither a number');
    await db.perform(lead, changeLevels, { levels: ['area', 'stream', 'process', 'activity'], codeScheme });
    expect((await db.ask(lead, getMap, undefined)).levels).toHaveLength(4);
  });

  it('tells what changed since a cycle opened', async () => {
    const { changes } = await db.ask(lead, getMapChanges, { cycle: 'ACC-2' });
    expect(changes.some(({ code, action }) => code === 'PU-2.1' && action === 'retired')).toBe(true);
  });

  it('tells what hangs on a node, those below it included, with the newest outcomes', async () => {
    const node = await db.ask(lead, getNode, 'NS-2');
    expect(node.tests.map(({ code }) => code)).toContain('FIN-01');
    expect(node.scenarios).toHaveLength(6);
    expect(node.requirements.find(({ code }) => code === 'RQ-014')?.state).toBe('not yet');
    expect(new Set(node.requirements.map(({ state }) => state)).size).toBeGreaterThan(1);
  });

  it('has a strip in the same order, each parent before its children, and an outline of all', async () => {
    const [strip, outline, { nodes: mapped }] = await Promise.all([
      db.ask(lead, getStrip, {}),
      db.ask(lead, getOutline, undefined),
      db.ask(lead, getMap, undefined),
    ]);
    const nodes = unpackStrip(strip.nodes);
    expect(nodes.map(({ code }) => code)).toEqual(mapped.filter(({ depth }) => depth < 3).map(({ code }) => code));
    expect(outline.codes).toEqual(mapped.map(({ code }) => code));
    expect([nodes.every(({ parent }, place) => parent < place), outline.parents.every((parent, place) => parent < place)]).toEqual([
      true,
      true,
    ]);
  });
});
