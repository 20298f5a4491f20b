import { ofCycle } from './of-cycle.ts';
import { progressQuerySchema } from '@kindred-baton/contracts/progress/progress';
import { FACETS } from '@kindred-baton/core/progress/facet';
import { unpackFacts } from '@kindred-baton/core/progress/course';
import { drawCurves } from '@kindred-baton/core/progress/draw-curve';
import { unpackStrip } from '@kindred-baton/core/progress/strip';
import { NO_COUNTS, sumCounts } from '@kindred-baton/core/progress/tally';
import type { Actor } from '@kindred-baton/store/actor';
import { getAcceptance } from '@kindred-baton/store/cycles/acceptance';
import { getCycle } from '@kindred-baton/store/cycles/get-cycle';
import { listCycles } from '@kindred-baton/store/cycles/list-cycles';
import { getStrip } from '@kindred-baton/store/map/get-strip';
import { getCourse } from '@kindred-baton/store/progress/get-course';
import { getProgress } from '@kindred-baton/store/progress/get-progress';
import { listTurns } from '@kindred-baton/store/turns/list-turns';
import { sql } from 'drizzle-orm';
import { expect } from 'vitest';
import type { TestStore } from './test-store.ts';

type Counts = typeof NO_COUNTS;

const add = (a: Counts, b: Counts) =>
  Object.fromEntries(Object.keys(NO_COUNTS).map((key) => [key, a[key as keyof Counts] + b[key as keyof Counts]])) as Counts;

/** By status, counted by its own statement: what no run that was taken out has. */
async function countAgain(db: TestStore, code: string): Promise<Counts> {
  const { rows } = await db.store.db.execute<{ status: keyof Counts; turns: number }>(sql`
    select turns.status, count(*)::int as turns from turns join runs on runs.id = turns.run_id join cycles on cycles.id = turns.cycle_id
    where cycles.code = ${code} and coalesce(runs.left_to::text, '') <> 'taken out' group by 1`);
  return { ...NO_COUNTS, ...Object.fromEntries(rows.map(({ status, turns }) => [status, turns])) };
}

/** Every place that shows a total of the current cycle shows what is counted again here; answers that, and what the cycle says of itself. */
export async function expectSameTotals(db: TestStore, lead: Actor, code: string): Promise<{ again: Counts; runs: number }> {
  const facet = FACETS[0];
  const [cycle, list, strip, progress, acceptance] = await Promise.all([
    db.ask(lead, getCycle, code),
    db.ask(lead, listCycles, undefined),
    db.ask(lead, getStrip, {}),
    db.ask(lead, getProgress, progressQuerySchema.parse({ cycle: code, rows: facet, columns: FACETS[1] ?? facet })),
    db.ask(lead, getAcceptance, code),
  ]);
  const inList = list.cycles.find((each) => each.code === code);
  const roots = unpackStrip(strip.nodes)
    .filter(({ depth }) => depth === 0)
    .map(({ counts }) => counts);
  const shown = {
    cycle: cycle.counts,
    list: { ...NO_COUNTS, ...inList?.counts },
    strip: { ...NO_COUNTS, ...roots.reduce(add, NO_COUNTS) },
    progress: progress.total,
    acceptance: acceptance.counts,
  };
  const again = await countAgain(db, code);
  const { course } = await db.ask(lead, getCourse, { cycle: code });
  if (course) {
    const { through, wrong } = drawCurves(unpackFacts(course), 'turns').all;
    expect([through.at(-1), wrong.at(-1)]).toEqual([again.passed + again.skipped, again.failed + again.blocked]);
  }
  for (const [place, counts] of Object.entries(shown)) expect({ place, counts }).toEqual({ place, counts: again });
  expect(inList?.runs).toBe(cycle.runs);
  const { rows } = await db.ask(lead, listTurns, { ...ofCycle(code) });
  expect(rows.size).toBe(sumCounts(again));
  for (const status of ['passed', 'skipped', 'failed', 'waiting'] as const) {
    const listed = await db.ask(lead, listTurns, { ...ofCycle(code), status: [status] });
    expect({ status, turns: listed.rows.size }).toEqual({ status, turns: again[status] });
  }
  return { again, runs: cycle.runs };
}
