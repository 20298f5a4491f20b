import { and, asc, desc, eq, inArray, sql } from 'drizzle-orm';
import type { ScenarioId, TeamId, TestId } from '@kindred-baton/core/ids';
import { pushTo } from '@kindred-baton/core/push-to';
import type { Chain, LegView } from '@kindred-baton/core/scenarios/chain';
import type { DrawnTest } from '@kindred-baton/core/scenarios/draw-legs';
import { toLegView, toTestKey } from '@kindred-baton/core/scenarios/draw-legs';
import type { LegDocument } from '@kindred-baton/core/scenarios/scenario-document';
import { wireChain } from '@kindred-baton/core/scenarios/wire-chain';
import type { Tree, TreeNode } from '../map/load-tree.ts';
import { loadTree } from '../map/load-tree.ts';
import type { ReadContext } from '../operation.ts';
import type { LegRow, ScenarioRecord, ScenarioRowRecord } from '../schema/scenarios.ts';
import { isDrawn, legs, scenarioRows, scenarios } from '../schema/scenarios.ts';
import type { TestRow, TestVersionRow } from '../schema/tests.ts';
import { testColumns, testVersions, tests } from '../schema/tests.ts';

export interface LoadedLeg {
  readonly row: LegRow;
  readonly document: LegDocument;
  readonly test: TestRow | null;
  /** The version that the leg is drawn with: the one it names, else the newest agreed one, else the draft. */
  readonly version: TestVersionRow | null;
  /** The newest agreed version, where the leg is drawn with an older one. */
  readonly newer: number | null;
  readonly drawn: DrawnTest | undefined;
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

/** Scenarios with their legs, tests and wiring; all that were drawn, or those named. Five queries, whatever the number. */
export async function loadChains(context: Pick<ReadContext, 'db' | 'actor'>, ids?: readonly ScenarioId[]): Promise<LoadedChains> {
  const { db, actor } = context;
  const chosen = and(eq(scenarios.programmeId, actor.programmeId), ids ? inArray(scenarios.id, [...ids]) : isDrawn);
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
      .select({ leg: legs, test: testColumns, named: testVersions })
      .from(legs)
      .leftJoin(tests, eq(tests.id, legs.testId))
      .leftJoin(testVersions, and(eq(testVersions.testId, legs.testId), eq(testVersions.number, legs.version)))
      .where(inArray(legs.scenarioId, wanted))
      .orderBy(asc(legs.position), asc(legs.id)),
  ]);
  const newest = await loadNewest(
    context,
    legList.flatMap(({ test }) => test?.id ?? []),
  );
  const legsOf = new Map<ScenarioId, LoadedLeg[]>();
  for (const { leg, ...linked } of legList) pushTo(legsOf, leg.scenarioId, toLoadedLeg(leg, linked, { newest, tree }));
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
async function loadNewest({ db }: Pick<ReadContext, 'db'>, testIds: readonly TestId[]): Promise<Map<TestId, TestVersionRow>> {
  if (testIds.length === 0) return new Map();
  // Which they are is sorted without their steps, and the tests are one parameter, however many.
  const newest = db
    .selectDistinctOn([testVersions.testId], { id: testVersions.id })
    .from(testVersions)
    .where(sql`${testVersions.testId} = any(${sql.param([...new Set(testIds)])}::uuid[])`)
    .orderBy(testVersions.testId, desc(eq(testVersions.state, 'agreed')), desc(testVersions.number));
  const rows = await db.select().from(testVersions).where(inArray(testVersions.id, newest));
  return new Map(rows.map((row) => [row.testId, row]));
}

interface Linked {
  readonly test: TestRow | null;
  /** The version that the leg names. */
  readonly named: TestVersionRow | null;
}

interface Around {
  readonly newest: ReadonlyMap<TestId, TestVersionRow>;
  readonly tree: Tree;
}

function toLoadedLeg(row: LegRow, { test, named }: Linked, { newest: newestOf, tree }: Around): LoadedLeg {
  const newest = (test && newestOf.get(test.id)) ?? null;
  const version = named ?? newest;
  const entry = test ? tree.byId.get(test.nodeId) : undefined;
  const document = toLegDocument(row, test?.code ?? null);
  const drawn = test ? toDrawn(test, { version, entry, isRetired: newest?.state === 'retired' }) : undefined;
  return {
    ...{ row, document, test, version, drawn },
    newer: newest?.state === 'agreed' && version && newest.number > version.number ? newest.number : null,
    view: toLegView(document, drawn),
    teamId: row.teamId ?? test?.teamId ?? null,
  };
}

interface DrawnFrom {
  readonly version: TestVersionRow | null;
  readonly entry: TreeNode | undefined;
  readonly isRetired: boolean;
}

export function toDrawn(test: TestRow, { version, entry, isRetired }: DrawnFrom): DrawnTest {
  return {
    ...{ name: test.name, team: test.teamId, needs: version?.needs ?? [], gives: version?.gives ?? [], isRetired },
    ownValues: version?.rows[0]?.values ?? {},
    place: entry ? { parent: entry.node.parentId ?? '', order: entry.order } : null,
  };
}

function toLegDocument(row: LegRow, test: string | null): LegDocument {
  return {
    ...{ id: row.id, test, version: row.version, title: row.title, team: row.teamId, persona: row.personaId, after: row.after },
    ...{ wires: row.wires, waitDays: row.waitDays, samePersonAs: row.samePersonAs, otherPersonThan: row.otherPersonThan },
    ...{ note: row.note, needs: row.needs, gives: row.gives },
  };
}

/** The versions that the legs are drawn with, each once, by toTestKey. */
export function listDrawn(loaded: LoadedScenario): Map<string, LoadedLeg> {
  const drawn = new Map<string, LoadedLeg>();
  for (const leg of loaded.legs) {
    const key = toTestKey(leg.document);
    if (key !== undefined) drawn.set(key, leg);
  }
  return drawn;
}
