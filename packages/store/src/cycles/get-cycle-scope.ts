import { asc, desc, eq } from 'drizzle-orm';
import type { CycleScope } from '@kindred-baton/contracts/cycles/cycle';
import { CYCLE_PURPOSES } from '@kindred-baton/core/cycles/cycle';
import { proposeCycleCode } from '@kindred-baton/core/cycles/cycle-code';
import { toDay } from '@kindred-baton/core/time/calendar';
import type { TestId } from '@kindred-baton/core/ids';
import { pushTo } from '@kindred-baton/core/push-to';
import { getPath } from '../map/load-tree.ts';
import type { Query, ReadContext } from '../operation.ts';
import { countFindings } from '../scenarios/list-scenarios.ts';
import { loadChains } from '../scenarios/load-chains.ts';
import { cycles, runs } from '../schema/cycles.ts';
import { programmes } from '../schema/programmes.ts';
import { requirementTests, requirements } from '../schema/requirements.ts';
import { getLegMinutes } from './make-turns.ts';

/** What a cycle can take in: every scenario that is not retired, with its data rows, where it passes and what it proves; and former cycles. */
export const getCycleScope: Query<void, CycleScope> = {
  right: 'read',
  read: async (context) => {
    const [{ tree, scenarios: loaded }, former, served, [programme]] = await Promise.all([
      loadChains(context),
      loadFormer(context),
      loadServed(context),
      context.db.select({ scheme: programmes.cycleScheme }).from(programmes).where(eq(programmes.id, context.actor.programmeId)),
    ]);
    const taken = new Set(former.map(({ code }) => code));
    const today = toDay(context.now.getTime(), context.actor.timeZone);
    return {
      scenarios: loaded
        .filter(({ scenario }) => scenario.state !== 'retired')
        .map((item) => ({
          ...{
            id: item.scenario.id,
            code: item.scenario.code,
            name: item.scenario.name,
            state: item.scenario.state,
            priority: item.scenario.priority,
          },
          node: { code: tree.byId.get(item.scenario.nodeId)?.node.code ?? '', name: tree.byId.get(item.scenario.nodeId)?.node.name ?? '' },
          passes: [
            ...new Set(
              [item.scenario.nodeId, ...item.legs.flatMap(({ test }) => test?.nodeId ?? [])].flatMap((id) =>
                getPath(tree, id).map(({ node }) => node.code),
              ),
            ),
          ],
          requirements: [...new Set(item.legs.flatMap(({ test }) => (test ? (served.get(test.id) ?? []) : [])))].sort(),
          legs: item.legs.length,
          openLegs: item.legs.filter((leg) => leg.test === null).length,
          errors: countFindings(item).errors,
          minutes: item.legs.reduce((sum, leg) => sum + getLegMinutes(leg), 0),
          rows: item.rows.map(({ id, name }) => ({ id, name })),
        })),
      former,
      suggestedCodes: Object.fromEntries(
        CYCLE_PURPOSES.map((purpose) => [purpose, proposeCycleCode(programme?.scheme ?? 'C-9', purpose, today, (code) => taken.has(code))]),
      ) as CycleScope['suggestedCodes'],
    };
  },
};

async function loadFormer({ db, actor }: ReadContext): Promise<CycleScope['former']> {
  const rows = await db
    .select({
      code: cycles.code,
      name: cycles.name,
      scenarioId: runs.scenarioId,
      rowId: runs.rowId,
      outcome: runs.outcome,
      leftTo: runs.leftTo,
    })
    .from(cycles)
    .leftJoin(runs, eq(runs.cycleId, cycles.id))
    .where(eq(cycles.programmeId, actor.programmeId))
    .orderBy(desc(cycles.startsOn), asc(cycles.code), asc(runs.number));
  const found = new Map<string, CycleScope['former'][number]>();
  for (const { code, name, scenarioId, rowId, outcome, leftTo } of rows) {
    const cycle = found.get(code) ?? { code, name, runs: [] };
    found.set(code, cycle);
    if (scenarioId && outcome) cycle.runs.push({ scenarioId, rowId, outcome, isLeftToNext: leftTo === 'next cycle' });
  }
  return [...found.values()];
}

/** The requirements that each test serves, by code. */
async function loadServed({ db, actor }: ReadContext): Promise<Map<TestId, string[]>> {
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
