import type { ScenarioList, ScenarioListItem, ScenarioListQuery, ScenarioNames } from '@kindred-baton/contracts/scenarios/scenario';
import { SCENARIOS_A_PAGE } from '@kindred-baton/contracts/scenarios/scenario';
import type { ScenarioId, TeamId } from '@kindred-baton/core/ids';
import { findFindings } from '@kindred-baton/core/scenarios/findings/rules';
import { cutPage } from '@kindred-baton/core/tables/pages';
import { and, asc, eq } from 'drizzle-orm';
import type { Tree } from '../map/load-tree.ts';
import { listSubtree, loadTree } from '../map/load-tree.ts';
import type { Query, ReadContext } from '../operation.ts';
import { loadTeamNames } from '../programmes/load-team-names.ts';
import { isDrawn, scenarios } from '../schema/scenarios.ts';
import type { LoadedScenario } from './load-chains.ts';
import { loadChains } from './load-chains.ts';

type InScope = Pick<ScenarioListQuery, 'scope'>;

/** A page of the scenarios at a branch of the map, with what their wiring says; a page behind the end is the last. Seven queries, eight of a branch. */
export const listScenarios: Query<ScenarioListQuery, ScenarioList> = {
  right: 'read',
  read: async (context, { page: wanted, ...within }) => {
    const ids = await listIds(context, within);
    const { at, shown } = cutPage(ids, { page: wanted, of: SCENARIOS_A_PAGE });
    const pages = Math.max(1, Math.ceil(ids.length / SCENARIOS_A_PAGE));
    const [{ tree, scenarios: loaded }, nameOf] = await Promise.all([loadChains(context, shown), loadTeamNames(context)]);
    const items = loaded.map((one) => toItem(one, { tree, nameOf }));
    return {
      total: ids.length,
      page: at.page,
      pages,
      toFix: pages === 1 ? items.filter(({ errors }) => errors > 0).length : null,
      scenarios: items,
    };
  },
};

/** Looks at the wiring of every scenario at a branch: with thousands that takes seconds, and is done aside. */
export const countToFix: Query<InScope, { toFix: number }> = {
  right: 'read',
  read: async (context, within) => {
    const { scenarios: loaded } = await loadChains(context, await listIds(context, within));
    return { toFix: loaded.filter((one) => countFindings(one).errors > 0).length };
  },
};

export const listScenarioNames: Query<void, ScenarioNames> = {
  right: 'read',
  read: async ({ db, actor }) => ({
    scenarios: await db
      .select({ code: scenarios.code, name: scenarios.name })
      .from(scenarios)
      .where(and(eq(scenarios.programmeId, actor.programmeId), isDrawn))
      .orderBy(asc(scenarios.code)),
  }),
};

/** Those that somebody drew, by code. */
async function listIds(context: ReadContext, { scope }: InScope): Promise<ScenarioId[]> {
  const { db, actor } = context;
  const rows = await db
    .select({ id: scenarios.id, nodeId: scenarios.nodeId })
    .from(scenarios)
    .where(and(eq(scenarios.programmeId, actor.programmeId), isDrawn))
    .orderBy(asc(scenarios.code));
  const inside = scope === undefined ? null : new Set(listSubtree(await loadTree(context), scope));
  return rows.flatMap(({ id, nodeId }) => (inside === null || inside.has(nodeId) ? [id] : []));
}

interface Around {
  readonly tree: Tree;
  readonly nameOf: ReadonlyMap<TeamId, string>;
}

function toItem(loaded: LoadedScenario, { tree, nameOf }: Around): ScenarioListItem {
  const { scenario, legs, rows } = loaded;
  const node = tree.byId.get(scenario.nodeId)?.node;
  return {
    ...{ id: scenario.id, code: scenario.code, name: scenario.name, state: scenario.state, priority: scenario.priority },
    node: { code: node?.code ?? '', name: node?.name ?? '' },
    legs: legs.length,
    openLegs: legs.filter((leg) => leg.test === null).length,
    rows: rows.length,
    teams: [...new Set(legs.flatMap((leg) => (leg.teamId ? [nameOf.get(leg.teamId) ?? ''] : [])))],
    offers: legs.filter(({ newer }) => newer !== null).length,
    ...countFindings(loaded),
  };
}

export function countFindings({ chain, rows, scenario }: LoadedScenario): { errors: number; warnings: number } {
  const findings = findFindings({ chain, isInOpenCycle: false, data: { rows, classes: scenario.classes } });
  const countOf = (weight: string) => findings.filter((finding) => finding.weight === weight).length;
  return { errors: countOf('error'), warnings: countOf('warning') };
}
