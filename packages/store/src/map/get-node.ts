import { and, asc, eq, inArray } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { NodeDetail } from '@kindred-baton/contracts/map/node';
import { gatherProof, getRequirementState } from '@kindred-baton/core/requirements/requirement';
import type { NodeId, TestId } from '@kindred-baton/core/ids';
import { pushTo } from '@kindred-baton/core/push-to';
import type { Query, ReadContext } from '../operation.ts';
import { people } from '../schema/people.ts';
import { applications, programmes, teams } from '../schema/programmes.ts';
import { requirementNodes, requirementTests, requirements } from '../schema/requirements.ts';
import { isDrawn, legs, scenarios } from '../schema/scenarios.ts';
import { tests } from '../schema/tests.ts';
import { listStandings } from './list-standings.ts';
import { nodes } from '../schema/map.ts';
import { listNodeChanges } from './get-map-changes.ts';
import { countBranch } from './get-strip.ts';
import { getPath, listSubtree, loadTree } from './load-tree.ts';

/** One node with its tests, scenarios and requirements, those of the nodes below it included. */
export const getNode: Query<string, Omit<NodeDetail, 'descriptionHtml'>> = {
  right: 'read',
  read: async (context, code) => {
    const tree = await loadTree(context);
    const entry = tree.byCode.get(code);
    if (!entry) throw new AppError('not found', `There is no node ${code} on the map.`);
    const below = listSubtree(tree, code);
    const [head, testRows, scenarioRows, requirementRows, changes, outcomes] = await Promise.all([
      loadHead(context, entry.node.id),
      listTestsAt(context, below),
      listScenariosThrough(context, below),
      listRequirementsAt(context, below),
      listNodeChanges(context, { nodeId: entry.node.id }),
      countBranch(context, tree, entry),
    ]);
    const standings = await listStandings(context, {
      testIds: [...testRows.map((row) => row.id), ...requirementRows.flatMap((row) => row.testIds)],
    });
    const standingOf = (id: TestId) => standings.get(id) ?? null;
    return {
      id: entry.node.id,
      code: entry.node.code,
      name: entry.node.name,
      isCritical: entry.node.isCritical,
      isRetired: entry.node.isRetired,
      ...head,
      outcomes,
      history: changes,
      level: head.levels[getPath(tree, entry.node.id).length - 1] ?? 'node',
      tests: testRows.map((row) => ({ ...row, standing: standingOf(row.id) })),
      scenarios: groupScenarios(scenarioRows),
      requirements: requirementRows.map(({ testIds, ...row }) => ({
        ...row,
        state: getRequirementState(testIds.map((id) => standingOf(id)?.standing ?? null)),
        proof: gatherProof(testIds.map(standingOf)),
      })),
    };
  },
};

async function loadHead({ db }: ReadContext, id: NodeId) {
  const [row] = await db
    .select({
      team: { id: teams.id, name: teams.name },
      application: { id: applications.id, name: applications.name },
      owner: { id: people.id, name: people.name },
      levels: programmes.levels,
      description: nodes.description,
      documents: nodes.documents,
    })
    .from(nodes)
    .innerJoin(programmes, eq(programmes.id, nodes.programmeId))
    .leftJoin(teams, eq(teams.id, nodes.teamId))
    .leftJoin(applications, eq(applications.id, nodes.applicationId))
    .leftJoin(people, eq(people.id, nodes.ownerId))
    .where(eq(nodes.id, id));
  return row ?? { team: null, application: null, owner: null, levels: [], description: '', documents: [] };
}

function listTestsAt({ db }: ReadContext, below: NodeId[]) {
  return db
    .select({ id: tests.id, code: tests.code, name: tests.name })
    .from(tests)
    .where(inArray(tests.nodeId, below))
    .orderBy(asc(tests.code));
}

function listScenariosThrough({ db }: ReadContext, below: NodeId[]) {
  return db
    .selectDistinct({ id: scenarios.id, code: scenarios.code, name: scenarios.name, node: nodes.code })
    .from(scenarios)
    .innerJoin(legs, and(eq(legs.scenarioId, scenarios.id), isDrawn))
    .innerJoin(tests, eq(tests.id, legs.testId))
    .innerJoin(nodes, eq(nodes.id, tests.nodeId))
    .where(
      inArray(
        scenarios.id,
        db
          .select({ id: legs.scenarioId })
          .from(legs)
          .innerJoin(tests, and(eq(tests.id, legs.testId), inArray(tests.nodeId, below))),
      ),
    )
    .orderBy(asc(scenarios.code));
}

/** Each scenario once, with the places that its legs pass: so the strip can light its way. */
function groupScenarios(rows: Awaited<ReturnType<typeof listScenariosThrough>>): NodeDetail['scenarios'] {
  const byId = new Map<string, NodeDetail['scenarios'][number]>();
  for (const { node, ...scenario } of rows) {
    const known = byId.get(scenario.id);
    if (known) known.nodes.push(node);
    else byId.set(scenario.id, { ...scenario, nodes: [node] });
  }
  return [...byId.values()];
}

async function listRequirementsAt({ db, actor }: ReadContext, below: NodeId[]) {
  const rows = await db
    .select({ id: requirements.id, code: requirements.code, name: requirements.title, testId: requirementTests.testId })
    .from(requirements)
    .innerJoin(requirementNodes, and(eq(requirementNodes.requirementId, requirements.id), inArray(requirementNodes.nodeId, below)))
    .leftJoin(requirementTests, eq(requirementTests.requirementId, requirements.id))
    .where(eq(requirements.programmeId, actor.programmeId))
    .orderBy(asc(requirements.code));
  const testsOf = new Map<string, TestId[]>();
  for (const row of rows) if (row.testId) pushTo(testsOf, row.id, row.testId);
  const byId = new Map(rows.map(({ id, code, name }) => [id, { id, code, name, testIds: testsOf.get(id) ?? [] }]));
  return [...byId.values()];
}
