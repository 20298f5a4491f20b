import { eq, max } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { ImportDocument, ImportedTest } from '@kindred-baton/core/imports/import-document';
import { sortParentsFirst } from '@kindred-baton/core/imports/sort-parents-first';
import { collectColumns } from '@kindred-baton/core/imports/collect-columns';
import { checkImport } from '@kindred-baton/core/imports/check-import';
import { deriveInterface } from '@kindred-baton/core/tests/interface';
import { pushTo } from '@kindred-baton/core/push-to';
import type { NodeId, TestId } from '@kindred-baton/core/ids';
import { chunk } from '../chunk.ts';
import { createId } from '../ids.ts';
import type { Context, Operation } from '../operation.ts';
import { nodes } from '../schema/map.ts';
import { applications, programmes, teams } from '../schema/programmes.ts';
import { legs, scenarioRows, scenarios } from '../schema/scenarios.ts';
import { testVersions, tests } from '../schema/tests.ts';
import { loadSurroundings } from './load-surroundings.ts';

export interface StoredImport {
  readonly nodes: number;
  readonly tests: number;
  readonly scenarios: number;
}

/**
 * Stores a workbook: all of it or nothing. It is checked again in the same transaction, with the programme locked, as
 * somebody may have changed the map since the preview. Imported tests come in as first versions, agreed by whoever
 * imports: she has seen them in the preview.
 */
export const storeImport: Operation<ImportDocument, StoredImport> = {
  right: 'edit map',
  run: async (context, document) => {
    const { db, actor } = context;
    await db.select({ id: programmes.id }).from(programmes).where(eq(programmes.id, actor.programmeId)).for('update');
    const check = checkImport(document, await loadSurroundings.read(context, undefined));
    if (check.problems.length > 0) {
      throw new AppError('conflict', 'The programme has changed since the preview; look at it again.', {
        details: { problems: check.problems },
      });
    }
    const { additions } = check;
    const names = await loadNames(context);
    const nodeIds = await storeNodes(context, additions, names);
    const testIds = await storeTests(context, additions, names, nodeIds);
    await storeScenarios(context, additions, { names, nodeIds, testIds });
    const stored = { nodes: additions.nodes.length, tests: additions.tests.length, scenarios: additions.scenarios.length };
    await context.record({ subject: 'programme', subjectId: actor.programmeId, action: 'workbook imported', details: { ...stored } });
    return stored;
  },
};

interface Names {
  readonly teams: ReadonlyMap<string, typeof teams.$inferSelect.id>;
  readonly applications: ReadonlyMap<string, typeof applications.$inferSelect.id>;
}

async function loadNames({ db, actor }: Context): Promise<Names> {
  const [teamRows, applicationRows] = await Promise.all([
    db.select({ id: teams.id, name: teams.name }).from(teams).where(eq(teams.programmeId, actor.programmeId)),
    db.select({ id: applications.id, name: applications.name }).from(applications).where(eq(applications.programmeId, actor.programmeId)),
  ]);
  return {
    teams: new Map(teamRows.map((row) => [row.name, row.id])),
    applications: new Map(applicationRows.map((row) => [row.name, row.id])),
  };
}

async function storeNodes({ db, actor }: Context, additions: ImportDocument, names: Names): Promise<Map<string, NodeId>> {
  const existing = await db.select({ id: nodes.id, code: nodes.code }).from(nodes).where(eq(nodes.programmeId, actor.programmeId));
  const [last] = await db
    .select({ position: max(nodes.position) })
    .from(nodes)
    .where(eq(nodes.programmeId, actor.programmeId));
  const idOf = new Map(existing.map((row) => [row.code, row.id]));
  for (const node of additions.nodes) idOf.set(node.code, createId<'node'>());
  const rows = sortParentsFirst(additions.nodes).map((node, index) => ({
    ...{ id: idOf.get(node.code) ?? createId<'node'>(), programmeId: actor.programmeId, code: node.code, name: node.name },
    ...{ isCritical: node.isCritical, description: node.description, position: (last?.position ?? 0) + 1 + index },
    parentId: node.parent === null ? null : (idOf.get(node.parent) ?? null),
    teamId: names.teams.get(node.team ?? '') ?? null,
    applicationId: names.applications.get(node.application ?? '') ?? null,
  }));
  for (const piece of chunk(rows)) await db.insert(nodes).values(piece);
  return idOf;
}

async function storeTests(
  context: Context,
  additions: ImportDocument,
  names: Names,
  nodeIds: ReadonlyMap<string, NodeId>,
): Promise<Map<string, TestId>> {
  const { db, actor } = context;
  const existing = await db.select({ id: tests.id, code: tests.code }).from(tests).where(eq(tests.programmeId, actor.programmeId));
  const idOf = new Map(existing.map((row) => [row.code, row.id]));
  for (const test of additions.tests) idOf.set(test.code, createId<'test'>());
  const places = await db
    .select({ id: nodes.id, teamId: nodes.teamId, applicationId: nodes.applicationId })
    .from(nodes)
    .where(eq(nodes.programmeId, actor.programmeId));
  const placeOf = new Map(places.map((place) => [place.id, place]));
  const rows = additions.tests.flatMap((test) => {
    const nodeId = nodeIds.get(test.activity);
    const id = idOf.get(test.code);
    if (!nodeId || !id) return [];
    const place = placeOf.get(nodeId);
    return [
      {
        ...{ id, nodeId, programmeId: actor.programmeId, code: test.code, name: test.name, minutes: test.minutes },
        teamId: names.teams.get(test.team ?? '') ?? place?.teamId ?? null,
        applicationId: names.applications.get(test.application ?? '') ?? place?.applicationId ?? null,
      },
    ];
  });
  for (const piece of chunk(rows)) await db.insert(tests).values(piece);
  const versions = additions.tests.flatMap((test) => {
    const testId = idOf.get(test.code);
    return testId ? [toFirstVersion(context, testId, test, additions)] : [];
  });
  for (const piece of chunk(versions)) await db.insert(testVersions).values(piece);
  return idOf;
}

function toFirstVersion({ actor, now }: Context, testId: TestId, test: ImportedTest, { fields }: ImportDocument) {
  const steps = test.steps.map(({ step }) => step);
  const typed = fields.filter((field) => field.test === test.code).map(({ field }) => field);
  const { needs, gives } = deriveInterface(steps, { needs: typed, gives: typed });
  return {
    ...{ id: createId<'testVersion'>(), testId, number: 1, state: 'agreed' as const, steps, needs: [...needs], gives: [...gives] },
    ...{ savedBy: actor.personId, savedAt: now, agreedBy: actor.personId, agreedAt: now },
  };
}

interface Places {
  readonly names: Names;
  readonly nodeIds: ReadonlyMap<string, NodeId>;
  readonly testIds: ReadonlyMap<string, TestId>;
}

async function storeScenarios({ db, actor }: Context, additions: ImportDocument, { names, nodeIds, testIds }: Places): Promise<void> {
  const rowsOf = new Map<string, ImportDocument['rows'][number][]>();
  for (const row of additions.rows) pushTo(rowsOf, row.scenario, row);
  const made = additions.scenarios.flatMap((scenario) => {
    const nodeId = nodeIds.get(scenario.process);
    return nodeId ? [{ scenario, nodeId, id: createId<'scenario'>(), rows: rowsOf.get(scenario.code) ?? [] }] : [];
  });
  const heads = made.map(({ scenario, nodeId, id, rows }) => ({
    ...{ id, nodeId, programmeId: actor.programmeId, code: scenario.code, name: scenario.name },
    state: scenario.legs.some((leg) => leg.test === null) ? ('sketch' as const) : ('agreed' as const),
    columns: collectColumns(
      rows,
      additions.fields.map(({ field }) => field),
    ),
  }));
  const legRows = made.flatMap(({ scenario, id }) =>
    scenario.legs.map((leg, position) => ({
      ...{ id: createId<'leg'>(), scenarioId: id, position, title: leg.title || null },
      testId: leg.test === null ? null : (testIds.get(leg.test) ?? null),
      teamId: names.teams.get(leg.team ?? '') ?? null,
    })),
  );
  const dataRows = made.flatMap(({ rows, id }) =>
    rows.map((row, position) => ({ id: createId<'scenarioRow'>(), scenarioId: id, name: row.name, position, values: { ...row.values } })),
  );
  for (const piece of chunk(heads)) await db.insert(scenarios).values(piece);
  for (const piece of chunk(legRows)) await db.insert(legs).values(piece);
  for (const piece of chunk(dataRows)) await db.insert(scenarioRows).values(piece);
}
