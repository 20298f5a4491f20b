import { and, asc, desc, eq, inArray } from 'drizzle-orm';
import type { ScenarioId, TeamId, TestId } from '@kindred-baton/core/ids';
import { pushTo } from '@kindred-baton/core/push-to';
import type { Chain, LegView } from '@kindred-baton/core/scenarios/chain';
import { wireChain } from '@kindred-baton/core/scenarios/wire-chain';
import type { Tree } from '../map/load-tree.ts';
import { loadTree } from '../map/load-tree.ts';
import type { ReadContext } from '../operation.ts';
import type { LegRow, ScenarioRecord, ScenarioRowRecord } from '../schema/scenarios.ts';
import { legs, scenarioRows, scenarios } from '../schema/scenarios.ts';
import type { TestRow, TestVersionRow } from '../schema/tests.ts';
import { testVersions, tests } from '../schema/tests.ts';

export interface LoadedLeg {
  readonly row: LegRow;
  readonly test: TestRow | null;
  /** The version that the scenario is drawn with: the newest agreed one, else the draft. */
  readonly version: TestVersionRow | null;
  readonly view: LegView;
  readonly teamId: TeamId | null;
}

export interface LoadedScenario {
  readonly scenario: ScenarioRecord;
  readonly rows: readonly ScenarioRowRecord[];
  readonly legs: readonly LoadedLeg[];
  readonly chain: Chain;
}

export interface LoadedChains {
  readonly tree: Tree;
  readonly scenarios: readonly LoadedScenario[];
}

/** Scenarios with their legs, tests and wiring; all of the programme, or those named. Five queries, whatever the number. */
export async function loadChains(context: Pick<ReadContext, 'db' | 'actor'>, ids?: readonly ScenarioId[]): Promise<LoadedChains> {
  const { db, actor } = context;
  const chosen = and(eq(scenarios.programmeId, actor.programmeId), ids ? inArray(scenarios.id, [...ids]) : undefined);
  const wanted = db.select({ id: scenarios.id }).from(scenarios).where(chosen);
  const [tree, scenarioList, rowList, legList] = await Promise.all([
    loadTree(context),
    db.select().from(scenarios).where(chosen).orderBy(asc(scenarios.code)),
    db
      .select()
      .from(scenarioRows)
      .where(inArray(scenarioRows.scenarioId, wanted))
      .orderBy(asc(scenarioRows.position), asc(scenarioRows.name)),
    db
      .select({ leg: legs, test: tests })
      .from(legs)
      .leftJoin(tests, eq(tests.id, legs.testId))
      .where(inArray(legs.scenarioId, wanted))
      .orderBy(asc(legs.position), asc(legs.id)),
  ]);
  const versions = await loadDrawnVersions(
    context,
    legList.flatMap(({ test }) => (test ? [test.id] : [])),
  );
  const legsOf = new Map<ScenarioId, LoadedLeg[]>();
  for (const { leg, test } of legList) pushTo(legsOf, leg.scenarioId, toLoadedLeg(leg, test, versions, tree));
  const rowsOf = new Map<ScenarioId, ScenarioRowRecord[]>();
  for (const row of rowList) pushTo(rowsOf, row.scenarioId, row);
  const loaded = scenarioList.map((scenario) => {
    const own = legsOf.get(scenario.id) ?? [];
    const chain = wireChain(
      own.map((leg) => leg.view),
      scenario.columns,
    );
    return { scenario, rows: rowsOf.get(scenario.id) ?? [], legs: own, chain };
  });
  return { tree, scenarios: loaded };
}

/** For each test its newest agreed version, or its draft while none is agreed. */
async function loadDrawnVersions({ db }: Pick<ReadContext, 'db'>, testIds: readonly TestId[]): Promise<Map<TestId, TestVersionRow>> {
  if (testIds.length === 0) return new Map();
  const rows = await db
    .selectDistinctOn([testVersions.testId])
    .from(testVersions)
    .where(inArray(testVersions.testId, [...new Set(testIds)]))
    .orderBy(testVersions.testId, desc(eq(testVersions.state, 'agreed')), desc(testVersions.number));
  return new Map(rows.map((row) => [row.testId, row]));
}

function toLoadedLeg(row: LegRow, test: TestRow | null, versions: ReadonlyMap<TestId, TestVersionRow>, tree: Tree): LoadedLeg {
  const version = (test && versions.get(test.id)) ?? null;
  const entry = test ? tree.byId.get(test.nodeId) : undefined;
  const view: LegView = {
    id: row.id,
    title: row.title ?? test?.name ?? 'Open leg',
    isOpen: test === null,
    needs: version?.needs ?? [],
    gives: version?.gives ?? [],
    ownValues: version?.rows[0]?.values ?? {},
    after: row.after ?? undefined,
    wires: row.wires,
    place: entry ? { parent: entry.node.parentId ?? '', order: entry.order } : undefined,
  };
  return { row, test, version, view, teamId: row.teamId ?? test?.teamId ?? null };
}
