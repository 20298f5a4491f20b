import { getFacetFilter } from '@kindred-baton/core/progress/facet';
import { FACETS } from '@kindred-baton/core/progress/facet';
import { sumCounts } from '@kindred-baton/core/progress/tally';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { TestStore } from '../../../../tests/support/test-store.ts';
import { createTestStore } from '../../../../tests/support/test-store.ts';
import type { Actor } from '../actor.ts';
import { getCycle } from '../cycles/get-cycle.ts';
import { getMap } from '../map/get-map.ts';
import { getStrip } from '../map/get-strip.ts';
import { listScenarios } from '../scenarios/list-scenarios.ts';
import { testFilterSchema } from '@kindred-baton/contracts/tests/library';
import { listTests } from '../tests/list-tests.ts';
import { getTurnsHome } from '../turns/get-turns-home.ts';
import { listTurns } from '../turns/list-turns.ts';
import { getProgress } from './get-progress.ts';

describe('progress', () => {
  let db: TestStore;
  let lead: Actor;
  beforeAll(async () => {
    db = await createTestStore('demo');
    lead = await db.actorOf('Lea Marsh');
  });
  afterAll(() => db.drop());

  it('shows the demo’s open round as its page says: about 750 turns, 60 % run, 93 % passed, four kinds of holds', async () => {
    const { total, holds } = await db.ask(lead, getProgress, { rows: 'process', columns: 'team' });
    const all = sumCounts(total);
    expect(all).toBeGreaterThan(730);
    expect((total.passed + total.failed) / all).toBeCloseTo(0.6, 1);
    expect(total.passed / (total.passed + total.failed)).toBeCloseTo(0.93, 1);
    expect(new Set(holds.map(({ kind }) => kind))).toEqual(new Set(['defect', 'failure', 'block', 'idle']));
    expect([...holds].sort((a, b) => b.waiting - a.waiting)).toEqual(holds);
  });

  it.each(FACETS)('opens, for each row by %s, the very turns that it counts', async (rows) => {
    const columns = rows === 'team' ? 'process' : 'team';
    const view = await db.ask(lead, getProgress, { rows, columns });
    expect(view.cells.flat().reduce((sum, cell) => sum + sumCounts(cell), 0)).toBe(sumCounts(view.total));
    for (const [index, row] of view.rows.slice(0, 6).entries()) {
      const counted = (view.cells[index] ?? []).reduce((sum, cell) => sum + sumCounts(cell), 0);
      const listed = await db.ask(lead, listTurns, { cycle: 'ACC-2', page: 1, [getFacetFilter(rows)]: row.key || '-' });
      expect([row.name, listed.total]).toEqual([row.name, counted]);
    }
  });

  it('opens, for each hold, the turns that wait behind it', async () => {
    const { holds } = await db.ask(lead, getProgress, { rows: 'process', columns: 'team' });
    for (const hold of holds) {
      const listed = await db.ask(lead, listTurns, { cycle: 'ACC-2', page: 1, hold: `${hold.kind}:${hold.key}` });
      expect([hold.title, listed.total]).toEqual([hold.title, hold.waiting]);
    }
  });

  it('scopes to a branch of the strip, with the same counts as the strip itself', async () => {
    const strip = await db.ask(lead, getStrip, undefined);
    for (const node of strip.nodes.filter(({ depth }) => depth < 2)) {
      const { total } = await db.ask(lead, getProgress, { rows: 'process', columns: 'team', scope: node.code });
      expect([node.code, total]).toEqual([node.code, node.counts]);
    }
  });

  it('asks a fixed number of questions, whatever there is to count', async () => {
    const countQueries = async (ask: () => Promise<unknown>) => {
      db.queries.length = 0;
      await ask();
      // Without the three statements of the spine: begin, whose programme, commit.
      return db.queries.length - 3;
    };
    expect(await countQueries(() => db.ask(lead, getProgress, { rows: 'process', columns: 'team' }))).toBe(11);
    expect(await countQueries(() => db.ask(lead, getProgress, { rows: 'process', columns: 'team', scope: 'PU-3' }))).toBe(10);
    expect(await countQueries(() => db.ask(lead, getStrip, undefined))).toBe(4);
    expect(await countQueries(() => db.ask(lead, getMap, undefined))).toBe(10);
    expect(await countQueries(() => db.ask(lead, listTests, testFilterSchema.parse({})))).toBe(5);
    expect(await countQueries(() => db.ask(lead, listScenarios, undefined))).toBe(6);
    expect(await countQueries(() => db.ask(lead, getCycle, 'ACC-2'))).toBe(7);
    expect(await countQueries(() => db.ask(lead, listTurns, { cycle: 'ACC-2', page: 1 }))).toBe(10);
    expect(await countQueries(() => db.ask(lead, getTurnsHome, undefined))).toBeLessThanOrEqual(20);
  });
});
