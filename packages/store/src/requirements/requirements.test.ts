import type { RequirementQuery, Traceability } from '@kindred-baton/contracts/requirements/requirement';
import { MATRIX_COLUMNS } from '@kindred-baton/contracts/requirements/requirement';
import type { RequirementComparison } from '@kindred-baton/core/imports/compare-requirements';
import { gatherProof } from '@kindred-baton/core/requirements/requirement';
import type { RequirementEntry } from '@kindred-baton/core/imports/requirement-table';
import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { ofCycle } from '../../../../tests/support/of-cycle.ts';
import type { TestStore } from '../../../../tests/support/test-store.ts';
import { createTestStore } from '../../../../tests/support/test-store.ts';
import type { Actor } from '../actor.ts';
import { compareRequirementImport, storeRequirementImport } from '../imports/store-requirement-import.ts';
import { getAcceptance } from '../cycles/acceptance.ts';
import { getNode } from '../map/get-node.ts';
import { listTests } from '../tests/list-tests.ts';
import { listTurns } from '../turns/list-turns.ts';
import { linkTest, removeRequirement, saveRequirement } from './change-requirements.ts';
import { getTraceability, listRequirements, readTestLinks } from './list-requirements.ts';

const SAVE = {
  code: 'RQ-901',
  title: 'It holds',
  description: '',
  kind: 'business' as const,
  priority: 'high' as const,
  nodes: ['NS-2.1'],
  tests: ['BIL-01'],
};

describe('requirements', () => {
  let db: TestStore;
  let lead: Actor;
  beforeAll(async () => {
    db = await createTestStore('demo');
    lead = await db.actorOf('Lea Marsh');
  });
  afterAll(() => db.drop());

  const find = async (code: string) => (await db.ask(lead, listRequirements, {})).requirements.find((each) => each.code === code);

  /** Every page of an answer: down, and of a matrix across. */
  async function listPages(asked: Partial<RequirementQuery>): Promise<Traceability[]> {
    const get = (more: Partial<RequirementQuery>) => db.ask(lead, getTraceability, { view: 'list', page: 1, across: 1, ...asked, ...more });
    const pages = [await get({})];
    const [first] = pages;
    if (!first) return [];
    for (let page = 2; (pages.at(-1)?.rows.from ?? 0) + (pages.at(-1)?.requirements.length ?? 0) < first.rows.size; page += 1)
      pages.push({ ...(await get({ page })), tests: [] });
    for (let across = 2; (across - 1) * MATRIX_COLUMNS < first.columns.size; across += 1)
      pages.push({ ...(await get({ across })), requirements: [] });
    return pages;
  }

  it('come in pages, each line once, with the gaps over all of them, as somebody counts who reads the whole list', async () => {
    const extra = Array.from({ length: 120 }, (_, i): RequirementEntry => ({
      ...{ place: { sheet: 'L', row: i + 2 }, code: `ZX-${i}`, title: `Lamp ${i} is mended`, nodes: i % 3 === 0 ? [] : ['NS-2.1'] },
      ...(i % 5 === 0 ? { tests: ['BIL-01'] } : {}),
    }));
    await db.perform(lead, storeRequirementImport, { entries: extra, seen: () => true });
    const { requirements } = await db.ask(lead, listRequirements, {});
    const branch = (code: string) => code === 'NS' || code.startsWith('NS-');
    for (const asked of [
      {},
      { scope: 'NS' },
      { words: 'lamp mended' },
      { kind: 'functional' },
      { scope: 'NS', show: 'no-test' },
    ] as const) {
      const { kind, scope, show, words = '' } = asked;
      const left = requirements.filter(
        (item) =>
          (scope === undefined || item.nodes.some(({ code }) => branch(code))) &&
          (kind === undefined || item.kind === kind) &&
          words.split(' ').every((word) => item.title.toLowerCase().includes(word)),
      );
      const shown = show ? left.filter(({ tests }) => tests.length === 0) : left;
      const pages = await listPages(asked);
      expect(pages.flatMap((page) => page.requirements.map(({ code }) => code))).toEqual(shown.map(({ code }) => code));
      for (const page of pages) expect(page).toMatchObject({ all: requirements.length, left: left.length, rows: { size: shown.length } });
      expect(pages[0]?.gaps).toMatchObject({
        'no-test': left.filter(({ tests }) => tests.length === 0).length,
        refuted: left.filter(({ state }) => state === 'refuted').length,
        nowhere: left.filter(({ nodes }) => nodes.length === 0).length,
      });
    }
    // A page behind the end is the last; one that is asked for by its code is told wherever it stands.
    const last = await db.ask(lead, getTraceability, { view: 'list', page: 99, across: 1, requirement: 'RQ-001' });
    expect([last.rows.from + last.requirements.length, last.chosen?.code]).toEqual([requirements.length, 'RQ-001']);
    for (const { code } of extra) await db.perform(lead, removeRequirement, { code });
  });

  it('have across a matrix each test of the branch and each that serves it, once; those that serve none are counted', async () => {
    const { requirements } = await db.ask(lead, listRequirements, {});
    const { rows } = await db.store.db.execute<{ code: string; node: string; serves: number }>(sql`
      select tests.code, nodes.code as node, (select count(*)::int from requirement_tests where test_id = tests.id) as serves
      from tests join nodes on nodes.id = tests.node_id order by tests.code`);
    for (const scope of [undefined, 'NS', 'NS-2.1']) {
      const isIn = (code: string) => scope === undefined || code === scope || code.startsWith(`${scope}-`) || code.startsWith(`${scope}.`);
      const serving = new Set(
        requirements.filter(({ nodes }) => nodes.some(({ code }) => isIn(code))).flatMap(({ tests }) => tests.map(({ code }) => code)),
      );
      const wanted = rows.filter(({ code, node }) => isIn(node) || serving.has(code)).map(({ code }) => code);
      const pages = await listPages({ view: 'matrix', ...(scope && { scope }) });
      const shown = pages.flatMap(({ tests }) => tests.map(({ code }) => code));
      expect([...shown].sort()).toEqual([...wanted].sort());
      expect(pages[0]?.unserved).toBe(rows.filter(({ node, serves }) => isIn(node) && serves === 0).length);
    }
  });

  it('read what is typed of tests by codes and names, and leave the rest as it is', async () => {
    const name = (await db.ask(lead, listTests, { page: 0 } as never)).tests.find(({ code }) => code === 'BIL-02')?.name ?? '';
    expect(await db.ask(lead, readTestLinks, `BIL-01, ${name.toUpperCase()}; GONE`)).toEqual({ codes: ['BIL-01', 'BIL-02', 'GONE'] });
  });

  it('are added with their links, changed, and removed', async () => {
    await db.perform(lead, saveRequirement, { code: null, save: SAVE });
    expect(await find('RQ-901')).toMatchObject({ title: 'It holds', nodes: [{ code: 'NS-2.1' }], tests: [{ code: 'BIL-01' }] });
    await db.perform(lead, saveRequirement, { code: 'RQ-901', save: { ...SAVE, code: 'RQ-902', nodes: [], tests: ['BIL-02', 'BIL-02'] } });
    expect(await find('RQ-901')).toBeUndefined();
    expect(await find('RQ-902')).toMatchObject({ nodes: [], tests: [{ code: 'BIL-02' }] });
    await db.perform(lead, removeRequirement, { code: 'RQ-902' });
    expect(await find('RQ-902')).toBeUndefined();
  });

  it('refuse links to what is not there, and a code that is taken; nothing is half stored', async () => {
    await expect(db.perform(lead, saveRequirement, { code: null, save: { ...SAVE, tests: ['GONE'] } })).rejects.toThrow('no test GONE');
    expect(await find('RQ-901')).toBeUndefined();
    await db.perform(lead, saveRequirement, { code: null, save: SAVE });
    await expect(db.perform(lead, saveRequirement, { code: null, save: SAVE })).rejects.toMatchObject({ code: 'conflict' });
    await db.perform(lead, removeRequirement, { code: 'RQ-901' });
  });

  it('are traced both ways, with their state from the newest turns', async () => {
    const first = (await db.ask(lead, listRequirements, {})).requirements.find(({ tests }) => tests.length > 0);
    const test = first?.tests[0]?.code ?? '';
    const trace = async () =>
      (await listPages({ view: 'matrix' })).flatMap((page) => page.tests).find(({ code }) => code === test)?.requirements ?? [];
    expect(await trace()).toContain(first?.code);
    await db.perform(lead, linkTest, { requirement: first?.code ?? '', test, isLinked: false });
    expect(await trace()).not.toContain(first?.code);
    await db.perform(lead, linkTest, { requirement: first?.code ?? '', test, isLinked: true });
    expect(await trace()).toContain(first?.code);
  });

  it('come in from a list, all or nothing, and the same list again changes nothing', async () => {
    const entries: RequirementEntry[] = [
      { place: { sheet: 'L', row: 2 }, code: 'RQ-910', title: 'New', tests: ['BIL-01'] },
      { place: { sheet: 'L', row: 3 }, code: 'RQ-001', title: 'Said anew' },
    ];
    const store = (list: readonly RequirementEntry[], seen: (comparison: RequirementComparison) => boolean = () => true) =>
      db.perform(lead, storeRequirementImport, { entries: list, seen });
    await expect(store(entries, () => false)).rejects.toMatchObject({ code: 'conflict' });
    await expect(store([...entries, { place: { sheet: 'L' }, code: 'RQ-911', title: 'X', nodes: ['GONE'] }])).rejects.toThrow(
      'nothing was stored',
    );
    expect(await find('RQ-910')).toBeUndefined();
    expect(await store(entries)).toEqual({ changed: 2 });
    expect(await find('RQ-910')).toMatchObject({ title: 'New', kind: 'functional', tests: [{ code: 'BIL-01' }] });
    expect((await db.ask(lead, compareRequirementImport, entries)).differences.map(({ kind }) => kind)).toEqual(['same', 'same']);
  });

  describe('how they stand', () => {
    interface TurnFact {
      readonly test: string;
      readonly cycle: string;
      readonly opened: string | null;
      readonly status: string;
      readonly left: string | null;
    }
    /** A second way: every turn, read one by one. */
    async function standAgain(asked?: string) {
      const { rows } = await db.store.db.execute<TurnFact & Record<string, unknown>>(sql`
        select tests.code as test, cycles.code as cycle, cycles.opened_at::text as opened, turns.status, runs.left_to as left
        from turns join tests on tests.id = turns.test_id join cycles on cycles.id = turns.cycle_id join runs on runs.id = turns.run_id`);
      const counted = rows.filter(({ opened, left }) => opened !== null && left !== 'taken out');
      const tests = new Map<string, TurnFact[]>();
      for (const row of counted) tests.set(row.test, [...(tests.get(row.test) ?? []), row]);
      return new Map(
        [...tests].map(([test, own]) => {
          const newest =
            own
              .map(({ opened, cycle }) => `${opened} ${cycle}`)
              .sort()
              .at(-1)
              ?.split(' ')
              .at(-1) ?? '';
          const cycle = own.some((row) => row.cycle === asked) ? asked : newest;
          const statuses = own.filter((row) => row.cycle === cycle).map(({ status }) => status);
          const is = (status: string) => statuses.includes(status);
          const standing = is('failed')
            ? 'failing'
            : is('blocked')
              ? 'blocked'
              : !is('passed')
                ? 'not run'
                : statuses.every((status) => status === 'passed')
                  ? 'passed'
                  : 'partly';
          return [test, { standing, cycle, turns: statuses.length, passed: statuses.filter((status) => status === 'passed').length }];
        }),
      );
    }

    it('is over all turns of the newest cycle that has them, the same in the matrix, the library and at the node', async () => {
      const again = await standAgain();
      const { requirements } = await db.ask(lead, listRequirements, {});
      const tests = (await listPages({ view: 'matrix' })).flatMap((page) => page.tests);
      for (const { code, standing } of tests) expect({ code, standing }).toEqual({ code, standing: again.get(code) ?? null });
      expect(tests.some(({ standing }) => standing?.standing === 'failing' && standing.passed > 0)).toBe(true);
      const library = await db.ask(lead, listTests, { page: 0 } as never);
      for (const { code, standing } of library.tests) expect({ code, standing }).toEqual({ code, standing: again.get(code) ?? null });
      const failing = library.facets.stands.find(({ key }) => key === 'failing')?.count;
      expect(failing).toBe([...again.values()].filter(({ standing }) => standing === 'failing').length);
      for (const item of requirements) {
        const own = item.tests.map(({ code }) => again.get(code)?.standing ?? null);
        const state = own.includes('failing')
          ? 'refuted'
          : own.length > 0 && own.every((standing) => standing === 'passed')
            ? 'verified'
            : own.some((standing) => standing === 'passed' || standing === 'partly')
              ? 'partly'
              : 'not yet';
        expect({ code: item.code, state: item.state }).toEqual({ code: item.code, state });
      }
      const node = await db.ask(lead, getNode, 'NS');
      const byCode = new Map(requirements.map((item) => [item.code, item]));
      for (const { code, state, proof } of node.requirements) {
        const item = byCode.get(code);
        expect({ code, state }).toEqual({ code, state: item?.state });
        expect(proof).toEqual(gatherProof(item?.tests.map(({ standing }) => standing) ?? []));
      }
    });

    it('is that of the cycle in question at acceptance, and opens just the turns it was counted over', async () => {
      const again = await standAgain('INT-1');
      const { nodes } = await db.ask(lead, getAcceptance, 'INT-1');
      const { requirements } = await db.ask(lead, listRequirements, {});
      const item = requirements.find(({ tests }) => tests.length > 0 && tests.every(({ code }) => again.get(code)?.cycle === 'INT-1'));
      const shown = nodes.flatMap((node) => node.requirements).find(({ code }) => code === item?.code);
      const own = item?.tests.map(({ code }) => again.get(code)) ?? [];
      const turns = own.reduce((sum, standing) => sum + (standing?.turns ?? 0), 0);
      expect(shown?.proof).toEqual({
        cycles: [{ cycle: 'INT-1', turns, passed: own.reduce((sum, standing) => sum + (standing?.passed ?? 0), 0) }],
        untried: 0,
      });
      expect((await db.ask(lead, listTurns, { ...ofCycle('INT-1'), requirement: item?.code ?? '' })).rows.size).toBe(turns);
      const { exit } = {
        exit: (await db.ask(lead, getAcceptance, 'INT-1')).criteria.find(({ rule }) => rule.kind === 'requirements verified'),
      };
      const kind = exit?.rule.kind === 'requirements verified' ? exit.rule.requirements : 'business';
      const open = requirements.filter(
        (each) => each.kind === kind && !(each.tests.length > 0 && each.tests.every(({ code }) => again.get(code)?.standing === 'passed')),
      );
      if (exit) expect([...exit.open].sort()).toEqual(open.map(({ code }) => code).sort());
    });

    it('of one test is refuted by a single failed turn among many that passed', async () => {
      const [test] = [...(await standAgain())]
        .filter(([, { standing, passed }]) => standing === 'failing' && passed > 1)
        .map(([code]) => code);
      await db.perform(lead, saveRequirement, { code: null, save: { ...SAVE, code: 'RQ-950', tests: [test ?? ''] } });
      expect((await find('RQ-950'))?.state).toBe('refuted');
      await db.perform(lead, removeRequirement, { code: 'RQ-950' });
    });
  });
});
