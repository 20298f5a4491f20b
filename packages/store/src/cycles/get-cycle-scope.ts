import { and, asc, desc, eq, isNotNull, sql } from 'drizzle-orm';
import type { CycleScope, FormerRuns } from '@kindred-baton/contracts/cycles/cycle';
import { CYCLE_PURPOSES } from '@kindred-baton/core/cycles/cycle';
import { proposeCycleCode } from '@kindred-baton/core/cycles/cycle-code';
import { toDay } from '@kindred-baton/core/time/calendar';
import type { TestId } from '@kindred-baton/core/ids';
import { pushTo } from '@kindred-baton/core/push-to';
import type { Tree } from '../map/load-tree.ts';
import type { Query, ReadContext } from '../operation.ts';
import { countFindings } from '../scenarios/list-scenarios.ts';
import type { LoadedScenario } from '../scenarios/load-chains.ts';
import { loadChains } from '../scenarios/load-chains.ts';
import { cycles, runs } from '../schema/cycles.ts';
import { programmes } from '../schema/programmes.ts';
import { requirementTests, requirements } from '../schema/requirements.ts';
import { scenarios } from '../schema/scenarios.ts';
import { requireCycle } from './require-cycle.ts';
import { getLegMinutes } from './make-turns.ts';

/** What a cycle can take in: every scenario that is not retired, with its data rows, where it passes and what it proves. */
export const getCycleScope: Query<void, CycleScope> = {
  right: 'read',
  read: async (context) => {
    const [{ tree, scenarios: drawn }, singles, former, served, [programme]] = await Promise.all([
      loadChains(context),
      loadSingles(context),
      loadFormer(context),
      loadServed(context),
      context.db.select({ scheme: programmes.cycleScheme }).from(programmes).where(eq(programmes.id, context.actor.programmeId)),
    ]);
    const taken = new Set(former.map(({ code }) => code));
    const today = toDay(context.now.getTime(), context.actor.timeZone);
    return {
      scenarios: [...singles, ...drawn]
        .filter(({ scenario }) => scenario.state !== 'retired')
        .map((item) => toScopeScenario(item, tree, served)),
      former: former.filter(({ hasRuns }) => hasRuns).map(({ code, name }) => ({ code, name })),
      suggestedCodes: Object.fromEntries(
        CYCLE_PURPOSES.map((purpose) => [purpose, proposeCycleCode(programme?.scheme ?? 'C-9', purpose, today, (code) => taken.has(code))]),
      ) as CycleScope['suggestedCodes'],
    };
  },
};

/** Tests that cycles took in by themselves before. */
async function loadSingles(context: ReadContext): Promise<readonly LoadedScenario[]> {
  const { db, actor } = context;
  const rows = await db
    .select({ id: scenarios.id })
    .from(scenarios)
    .where(and(eq(scenarios.programmeId, actor.programmeId), isNotNull(scenarios.onlyTestId)));
  return rows.length === 0
    ? []
    : (
        await loadChains(
          context,
          rows.map(({ id }) => id),
        )
      ).scenarios;
}

/** A scenario as it can be chosen: where it passes, what it proves, and what a run of it takes. */
export function toScopeScenario(
  item: LoadedScenario,
  tree: Tree,
  served: ReadonlyMap<TestId, readonly string[]>,
): CycleScope['scenarios'][number] {
  const { id, code, name, state, priority, nodeId, onlyTestId } = item.scenario;
  const node = tree.byId.get(nodeId)?.node;
  const nodeIds = [nodeId, ...item.legs.flatMap(({ test }) => test?.nodeId ?? [])];
  return {
    ...{ id, code, name, state, priority, isSingleTest: onlyTestId !== null, node: { code: node?.code ?? '', name: node?.name ?? '' } },
    passes: [...new Set(nodeIds.flatMap((each) => tree.byId.get(each)?.node.code ?? []))],
    requirements: [...new Set(item.legs.flatMap(({ test }) => (test ? (served.get(test.id) ?? []) : [])))].sort(),
    legs: item.legs.length,
    openLegs: item.legs.filter((leg) => leg.test === null).length,
    errors: countFindings(item).errors,
    minutes: item.legs.reduce((sum, leg) => sum + getLegMinutes(leg), 0),
    rows: item.rows.map((row) => ({ id: row.id, name: row.name })),
  };
}

/** Every cycle, newest first. */
function loadFormer({ db, actor }: ReadContext): Promise<{ code: string; name: string; hasRuns: boolean }[]> {
  return db
    .select({
      code: cycles.code,
      name: cycles.name,
      hasRuns: sql<boolean>`exists (select from ${runs} where ${eq(runs.cycleId, cycles.id)})`,
    })
    .from(cycles)
    .where(eq(cycles.programmeId, actor.programmeId))
    .orderBy(desc(cycles.startsOn), asc(cycles.code));
}

/** What a cycle held, and how it ended: for taking parts of it into the next. One query. */
export const getFormerRuns: Query<string, FormerRuns> = {
  right: 'read',
  read: async (context, code) => {
    const cycle = await requireCycle(context, code);
    const rows = await context.db
      .select({ scenarioId: runs.scenarioId, rowId: runs.rowId, outcome: runs.outcome, leftTo: runs.leftTo })
      .from(runs)
      .where(eq(runs.cycleId, cycle.id))
      .orderBy(asc(runs.number));
    return { runs: rows.map(({ leftTo, ...run }) => ({ ...run, isLeftToNext: leftTo === 'next cycle' })) };
  },
};

/** The requirements that each test serves, by code. */
export async function loadServed({ db, actor }: Pick<ReadContext, 'db' | 'actor'>): Promise<Map<TestId, string[]>> {
  const rows = await db
    .select({ testId: requirementTests.testId, code: requirements.code })
    .from(requirementTests)
    .innerJoin(requirements, eq(requirements.id, requirementTests.requirementId))
    .where(eq(requirements.programmeId, actor.programmeId))
    .orderBy(asc(requirements.code));
  const served = new Map<TestId, string[]>();
  for (const { testId, code } of rows) pushTo(served, testId, code);
  return served;
}
