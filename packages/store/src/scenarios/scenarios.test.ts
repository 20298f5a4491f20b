import { randomUUID } from 'node:crypto';
import type { LegId, ScenarioRowId } from '@kindred-baton/core/ids';
import { toTestKey } from '@kindred-baton/core/scenarios/draw-legs';
import type { ScenarioEdit } from '@kindred-baton/core/scenarios/edit-scenario';
import { createLeg } from '@kindred-baton/core/scenarios/scenario-document';
import { eq, sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { TestStore } from '../../../../tests/support/test-store.ts';
import { createTestStore } from '../../../../tests/support/test-store.ts';
import type { Actor } from '../actor.ts';
import { runs } from '../schema/cycles.ts';
import { compareScenarioImport, storeScenarioImport } from '../imports/store-scenario-import.ts';
import { agreeTest, saveTest } from '../tests/change-tests.ts';
import { getTest } from '../tests/get-test.ts';
import { changeScenario, createScenario } from './change-scenarios.ts';
import { compareScenario, listScenarioStates } from './compare-scenario.ts';
import { draftForLeg } from './draft-for-leg.ts';
import { editScenario } from './edit-scenario.ts';
import { findChainInLibrary } from './find-chain.ts';
import { getMapGaps, getMapWay } from './follow-map.ts';
import { getOverlaps } from './get-overlaps.ts';
import { getScenario } from './get-scenario.ts';
import { countToFix, listScenarioNames, listScenarios } from './list-scenarios.ts';
import { loadScenarioToExport } from './load-exported.ts';
import { proposeForLegs } from './propose-for-legs.ts';
import { getChangeReview, replaceTest, takeVersion } from './review-change.ts';

let db: TestStore;
let lead: Actor;
let author: Actor;
beforeAll(async () => {
  db = await createTestStore('demo');
  [lead, author] = await Promise.all([db.actorOf('Lea Marsh'), db.actorOf('Edda Quill')]);
});
afterAll(() => db.drop());

const documentOf = async (code: string) => (await db.ask(lead, getScenario, code)).document;
const edit = (code: string, edits: ScenarioEdit[], who = lead) => db.perform(who, editScenario, { code, edits: edits as never });
const titles = async (code: string) => {
  const { document, tests } = await db.ask(lead, getScenario, code);
  return document.legs.map((leg) => leg.title ?? tests[toTestKey(leg) ?? '']?.name);
};

describe('editing a scenario', () => {
  const add = async (more: { test?: string; title?: string; before?: string | null }) => {
    const { before = null, ...leg } = more;
    const id = randomUUID();
    await edit('S-1', [{ kind: 'add leg', leg: createLeg({ id, ...leg }), before }]);
    return id;
  };
  beforeAll(() => db.perform(lead, createScenario, { code: 'S-1', name: 'Sketch', node: 'NS' }));

  it('links tests, never copies them, and takes open legs in words', async () => {
    await add({ test: 'CUS-01' });
    const open = await add({ title: 'Walk the site' });
    await add({ test: 'FLD-01', before: open });
    expect(await titles('S-1')).toEqual(['Take the application', 'Survey the site', 'Walk the site']);
    await expect(add({ test: 'NO-SUCH' })).rejects.toThrow('There is no test NO-SUCH in the library.');
  });

  it('keeps everything of a leg, and takes an edit back', async () => {
    const before = await documentOf('S-1');
    const [first, second] = before.legs;
    const change = {
      ...{ waitDays: 3, note: 'Ring first', samePersonAs: first?.id ?? null, otherPersonThan: [], after: [first?.id ?? ''] },
      ...{
        wires: [{ need: 'Application no.', from: { kind: 'leg' as const, leg: first?.id ?? '', gives: 'Application no.', convert: true } }],
      },
    };
    const { undo } = await edit('S-1', [{ kind: 'change leg', leg: second?.id ?? '', change }]);
    expect((await documentOf('S-1')).legs[1]).toMatchObject(change);
    await edit('S-1', undo);
    expect(await documentOf('S-1')).toEqual(before);
  });

  it('joins the edits of two people at once', async () => {
    await Promise.all([add({ title: 'By one' }), add({ title: 'By another' }), add({ title: 'By a third' })]);
    expect((await titles('S-1')).slice(3).sort()).toEqual(['By a third', 'By another', 'By one']);
    expect(new Set((await documentOf('S-1')).legs.map(({ id }) => id)).size).toBe(6);
  });

  it('tells two people who change the same thing, and loses neither', async () => {
    const leg = (await documentOf('S-1')).legs[2]?.id ?? '';
    const say = (who: Actor, note: string) => edit('S-1', [{ kind: 'change leg', leg, change: { note }, was: { note: '' } }], who);
    await say(author, 'Mind the dog');
    await expect(say(lead, 'Ring first')).rejects.toThrow('There it says “Mind the dog”, here “Ring first”.');
    expect((await documentOf('S-1')).legs[2]?.note).toBe('Mind the dog');
  });

  it('stays a sketch while a leg is open, and becomes one again when one is added', async () => {
    await expect(db.perform(lead, changeScenario, { code: 'S-1', change: { state: 'agreed' } })).rejects.toThrow('4 open legs');
    const added = randomUUID();
    await edit('NS-S4', [{ kind: 'add leg', leg: createLeg({ id: added, title: 'Something new' }), before: null }]);
    expect((await db.ask(lead, getScenario, 'NS-S4')).state).toBe('sketch');
    // Taken back it is what was agreed, and agreed again; something else is not.
    await edit('NS-S4', [{ kind: 'change leg', leg: added, change: { title: 'Something else' }, was: { title: 'Something new' } }]);
    expect((await db.ask(lead, getScenario, 'NS-S4')).state).toBe('sketch');
    await edit('NS-S4', [{ kind: 'remove leg', leg: added }]);
    expect((await db.ask(lead, getScenario, 'NS-S4')).state).toBe('agreed');
  });

  it('is not left agreed with a value of the wrong type in a data row, and is not agreed with one', async () => {
    const { document } = await db.ask(lead, getScenario, 'NS-S4');
    const column = document.columns.find(({ type }) => type === 'number' || type === 'whole' || type === 'money' || type === 'date');
    const [row] = document.rows;
    if (!column || !row) throw new Error('The demo’s NS-S4 has no row with a number.');
    const type = (value: string) => edit('NS-S4', [{ kind: 'change row', row: row.id, values: { [column.name]: value } }]);
    await type('plenty');
    expect((await db.ask(lead, getScenario, 'NS-S4')).state).toBe('sketch');
    await expect(db.perform(lead, changeScenario, { code: 'NS-S4', change: { state: 'agreed' } })).rejects.toThrow('“plenty” is not one.');
    await type(row.values[column.name] ?? '');
    expect((await db.ask(lead, getScenario, 'NS-S4')).state).toBe('agreed');
  });

  it('refuses a team of nowhere, and legs of another scenario', async () => {
    const id = randomUUID();
    await expect(edit('S-1', [{ kind: 'add leg', leg: createLeg({ id, title: 'X', team: randomUUID() }), before: null }])).rejects.toThrow(
      'This programme has no such team.',
    );
    const taken = (await documentOf('NS-S1')).legs[0]?.id ?? '';
    await expect(edit('S-1', [{ kind: 'add leg', leg: createLeg({ id: taken, title: 'X' }), before: null }])).rejects.toThrow(
      'belongs to another scenario',
    );
    expect((await documentOf('NS-S1')).legs[0]?.id).toBe(taken);
  });

  it('keeps the ids of data rows, so that runs still name the row they ran', async () => {
    const before = (await documentOf('NS-S1')).rows;
    const [first, second] = before;
    await edit('NS-S1', [
      { kind: 'change row', row: first?.id ?? '', name: 'For a moment' },
      { kind: 'change row', row: second?.id ?? '', name: first?.name },
      { kind: 'change row', row: first?.id ?? '', name: second?.name },
      { kind: 'add row', row: { id: randomUUID(), name: 'New', values: {} }, before: null },
    ]);
    const after = (await documentOf('NS-S1')).rows;
    expect(after.map(({ name }) => name)).toEqual([second?.name, first?.name, ...before.slice(2).map(({ name }) => name), 'New']);
    expect(after.slice(0, -1).map(({ id }) => id)).toEqual(before.map(({ id }) => id));
    const pointing = await db.store.db
      .select({ rowId: runs.rowId })
      .from(runs)
      .where(eq(runs.rowId, first?.id as ScenarioRowId));
    expect(pointing.length).toBeGreaterThan(0);
  });

  it('is listed with what its wiring says; the demo’s sketch has one need that nothing gives', async () => {
    const { scenarios } = await db.ask(lead, listScenarios, { page: 1 });
    expect(scenarios.find(({ code }) => code === 'PU-S2')).toMatchObject({ state: 'sketch', openLegs: 2, errors: 1 });
    expect(scenarios.filter(({ code, errors }) => errors > 0 && code !== 'PU-S2' && code !== 'S-1').map(({ code }) => code)).toEqual([]);
  });

  it('is listed in pages, of a branch too; what is to fix is counted over all of them', async () => {
    const whole = await db.ask(lead, listScenarios, { page: 1 });
    expect(whole).toMatchObject({ page: 1, pages: 1, total: whole.scenarios.length });
    expect(await db.ask(lead, countToFix, {})).toEqual({ toFix: whole.scenarios.filter(({ errors }) => errors > 0).length });
    expect(whole.toFix).toBe((await db.ask(lead, countToFix, {})).toFix);
    const branch = await db.ask(lead, listScenarios, { scope: 'NS', page: 1 });
    expect(branch.scenarios).toEqual(whole.scenarios.filter(({ node }) => node.code.startsWith('NS')));
    expect(await db.ask(lead, listScenarios, { scope: 'NOWHERE', page: 1 })).toMatchObject({ total: 0, toFix: 0, scenarios: [] });
    await db.store.db.execute(sql`
      insert into scenarios (id, programme_id, code, name, node_id)
      select gen_random_uuid(), programme_id, 'ZZ-' || lpad(n::text, 3, '0'), 'Many', node_id from scenarios, generate_series(1, 150) n where code = 'NS-S1'`);
    const first = await db.ask(lead, listScenarios, { page: 1 });
    const last = await db.ask(lead, listScenarios, { page: 99 });
    expect([first.pages, first.toFix, last.page, last.toFix]).toEqual([2, null, 2, null]);
    const codes = [...first.scenarios, ...last.scenarios].map(({ code }) => code);
    expect([new Set(codes).size, codes.length]).toEqual([whole.total + 150, first.total]);
    expect((await db.ask(lead, listScenarioNames, undefined)).scenarios.map(({ code }) => code)).toEqual(codes);
    await db.store.db.execute(sql`delete from scenarios where code like 'ZZ-%'`);
  });
});

describe('what was kept of a scenario', () => {
  it('is compared with what it is now, and with another scenario', async () => {
    const [first] = (await documentOf('NS-S5')).legs;
    await edit('NS-S5', [{ kind: 'change leg', leg: first?.id ?? '', change: { note: 'Ask for the band' } }]);
    await edit('NS-S5', [{ kind: 'remove leg', leg: (await documentOf('NS-S5')).legs[1]?.id ?? '' }]);
    const { states } = await db.ask(lead, listScenarioStates, 'NS-S5');
    expect(states.map(({ by, legs }) => [by, legs])).toEqual([
      ['Lea Marsh', 5],
      [null, 6],
    ]);
    const { legs } = await db.ask(lead, compareScenario, { code: 'NS-S5', state: states[1]?.id });
    expect(legs.filter(({ kind }) => kind !== 'same').map(({ kind, changes }) => [kind, ...changes])).toEqual([
      ['changed', 'note: none → Ask for the band'],
      ['removed'],
    ]);
    const beside = await db.ask(lead, compareScenario, { code: 'NS-S1', with: 'NS-S2' });
    expect(beside).toMatchObject({
      before: 'Household gets a metered supply',
      after: 'Small business gets a metered supply',
      isSame: false,
    });
    await expect(db.ask(lead, compareScenario, { code: 'NS-S1', state: states[0]?.id })).rejects.toThrow('no such earlier state');
  });
});

describe('a new version of a test', () => {
  it('is offered to the scenarios that use it, reviewed, and taken over in some', async () => {
    const { version } = await db.ask(lead, getTest, { code: 'FLD-01' });
    const base = { number: version.number, revision: version.revision };
    const without = version.steps.filter(({ keepAs }) => keepAs !== 'Survey no.');
    const saved = await db.perform(author, saveTest, {
      code: 'FLD-01',
      save: { base, name: 'Survey the site', minutes: 20, steps: without, needs: version.needs, gives: [], rows: version.rows },
    });
    const drafted = await db.ask(lead, getChangeReview, { test: 'FLD-01' });
    expect(drafted.by).toMatchObject({ state: 'draft', version: version.number + 1 });
    expect(drafted.differences).toEqual(['It no longer gives Survey no..']);
    await db.perform(author, agreeTest, { code: 'FLD-01', ...saved });
    const review = await db.ask(lead, getChangeReview, { test: 'FLD-01' });
    const line = review.scenarios.find(({ code }) => code === 'NS-S1');
    expect(line).toMatchObject({ legs: [2], isTaken: false, verdict: 'breaks' });
    expect(line?.brings.map(({ rule, value }) => `${rule} ${value}`)).toEqual(['never-given Survey no.']);
    expect(await db.perform(lead, takeVersion, { test: 'FLD-01', scenarios: ['NS-S6'] })).toEqual({ changed: 1 });
    const taken = (await db.ask(lead, getChangeReview, { test: 'FLD-01' })).scenarios
      .filter(({ isTaken }) => isTaken)
      .map(({ code }) => code);
    expect(taken).toEqual(['NS-S6', 'S-1'].filter((code) => taken.includes(code)));
    expect(taken).toContain('NS-S6');
    expect((await documentOf('NS-S1')).legs[1]?.version).toBe(version.number);
  });

  it('gives way to another test everywhere', async () => {
    const review = await db.ask(lead, getChangeReview, { test: 'BIL-01', by: 'BIL-02' });
    expect(review.by?.code).toBe('BIL-02');
    const codes = review.scenarios.map(({ code }) => code);
    expect(await db.perform(lead, replaceTest, { test: 'BIL-01', by: 'BIL-02', scenarios: codes })).toEqual({ changed: codes.length });
    expect((await db.ask(lead, getChangeReview, { test: 'BIL-01' })).scenarios).toEqual([]);
    await expect(db.perform(lead, replaceTest, { test: 'BIL-02', by: 'BIL-02', scenarios: codes })).rejects.toThrow('the same test');
  });
});

describe('an open leg', () => {
  it('is offered the tests that fit, and becomes a draft of its own', async () => {
    const id = randomUUID() as LegId;
    const field = (name: string) => ({ name, type: 'text' as const, required: true });
    const open = createLeg({ id, title: 'Fit meters', needs: [field('Job no.')], gives: [field('Meter serial')] });
    await db.perform(lead, createScenario, {
      code: 'S-2',
      name: 'From a workshop',
      node: 'NS',
      edits: [{ kind: 'add leg', leg: open as never, before: null }],
    });
    const { legs } = await db.ask(lead, proposeForLegs, 'S-2');
    expect(legs).toHaveLength(1);
    expect(legs[0]?.proposals[0]).toMatchObject({ code: 'FLD-03' });
    await db.perform(author, draftForLeg, { code: 'S-2', leg: id, test: 'NEW-01', node: 'NS-3.1' });
    const { version } = await db.ask(lead, getTest, { code: 'NEW-01' });
    expect(version.steps.map((step) => `${step.do} ${step.target}`)).toEqual(['fill Job no.', 'hand Fit meters', 'keep Meter serial']);
    expect(version).toMatchObject({ state: 'draft', needs: [{ name: 'Job no.' }], gives: [{ name: 'Meter serial' }] });
    expect((await documentOf('S-2')).legs[0]).toMatchObject({ test: 'NEW-01', title: null });
    await expect(db.perform(author, draftForLeg, { code: 'S-2', leg: id, test: 'NEW-02', node: 'NS-3.1' })).rejects.toThrow(
      'That leg has test NEW-01 by now.',
    );
  });
});

describe('a scenario’s file', () => {
  const takeIn = async (input: Parameters<typeof compareScenarioImport.read>[1]) => {
    const seen = await db.ask(lead, compareScenarioImport, input);
    const print = (each: typeof seen) => JSON.stringify([each.comparison, each.problems]);
    return db.perform(lead, storeScenarioImport, { ...input, isSeen: (again) => print(again) === print(seen) });
  };

  it('taken in again changes nothing; changed, it changes that, all of it or nothing', async () => {
    const { file } = await db.ask(lead, loadScenarioToExport, 'LR-S1');
    expect(await db.ask(lead, compareScenarioImport, { file, target: {} })).toMatchObject({
      isNew: false,
      edits: 0,
      problems: [],
      warnings: [],
    });
    const [first, ...others] = file.legs;
    const changed = { ...file, legs: [...others, { ...first, note: 'Last now' } as (typeof file.legs)[number]] };
    await takeIn({ file: changed, target: {} });
    const after = await documentOf('LR-S1');
    expect(after.legs.at(-1)).toMatchObject({ id: first?.key, note: 'Last now' });
    await takeIn({ file, target: {} });
    const { file: again } = await db.ask(lead, loadScenarioToExport, 'LR-S1');
    expect(again).toEqual(file);
  });

  it('becomes a new sketch under a code of its own', async () => {
    const { file } = await db.ask(lead, loadScenarioToExport, 'LR-S1');
    const input = {
      file: { ...file, legs: file.legs.map((leg) => ({ ...leg, key: `other ${leg.key}`, after: null, wires: [] })) },
      target: { code: 'LR-S9', name: 'Another' },
    };
    await takeIn(input);
    expect(await titles('LR-S9')).toEqual(await titles('LR-S1'));
    const lost = { file: { ...file, legs: file.legs.map((leg) => ({ ...leg, test: 'NO-SUCH' })) }, target: { code: 'LR-S8' } };
    await expect(takeIn(lost)).rejects.toThrow('names the test NO-SUCH, which is not in the library');
    expect((await db.ask(lead, compareScenarioImport, { file: { ...file, code: null, node: null }, target: {} })).problems).toEqual([
      'Give the scenario a code.',
      'Say where on the map it belongs.',
    ]);
  });
});

describe('over all scenarios', () => {
  it('finds the cheapest chain to a value', async () => {
    const { chain, values } = await db.ask(lead, findChainInLibrary, { value: 'Receipt no.' });
    expect(values).toContain('Receipt no.');
    expect(chain?.legs.at(-1)?.gives).toContainEqual({ value: 'Receipt no.', to: 'the goal' });
    expect(chain?.minutes).toBe(chain?.legs.reduce((sum, { test }) => sum + test.minutes, 0));
    expect((await db.ask(lead, findChainInLibrary, { value: 'Nothing gives this' })).chain).toBeNull();
    expect((await db.ask(lead, findChainInLibrary, {})).chain).toBeNull();
  });

  it('tells where they repeat one another, heaviest first', async () => {
    const { stretches, totals } = await db.ask(lead, getOverlaps, undefined);
    expect(totals.stretches).toBeGreaterThan(0);
    expect(stretches[0]?.places.length).toBeGreaterThan(1);
  });

  it('tells what of the map no scenario reaches, and the way of one', async () => {
    const gaps = await db.ask(lead, getMapGaps, undefined);
    expect(gaps.allActivities).toBeGreaterThan(gaps.activities.length);
    const { processes } = await db.ask(lead, getMapWay, 'LR-S1');
    expect(processes[0]?.activities.some(({ legs }) => legs.includes(1))).toBe(true);
  });
});
