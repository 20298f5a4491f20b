import { eq } from 'drizzle-orm';
import type { ImportSurroundings } from '@kindred-baton/core/imports/import-document';
import { loadTree } from '../map/load-tree.ts';
import type { Query } from '../operation.ts';
import { applications, programmes, teams } from '../schema/programmes.ts';
import { scenarios } from '../schema/scenarios.ts';
import { loadNewestVersions } from '../tests/load-newest-versions.ts';

/** What the programme has already, for an import to be compared with. Six queries. */
export const loadSurroundings: Query<void, ImportSurroundings> = {
  right: 'edit map',
  read: async (context) => {
    const { db, actor } = context;
    const here = actor.programmeId;
    const [tree, testRows, scenarioRows, teamRows, applicationRows, [programme]] = await Promise.all([
      loadTree(context),
      loadNewestVersions(context, { withRetired: true }),
      db.select({ code: scenarios.code, name: scenarios.name }).from(scenarios).where(eq(scenarios.programmeId, here)),
      db.select({ name: teams.name }).from(teams).where(eq(teams.programmeId, here)).orderBy(teams.position),
      db.select({ name: applications.name }).from(applications).where(eq(applications.programmeId, here)).orderBy(applications.name),
      db.select({ levels: programmes.levels }).from(programmes).where(eq(programmes.id, here)),
    ]);
    return {
      nodes: tree.nodes.map(({ node, parent }) => ({ code: node.code, name: node.name, parent: tree.nodes[parent]?.node.code ?? null })),
      tests: testRows.map(({ test: { code, name }, version: { steps } }) => ({ code, name, steps })),
      scenarios: scenarioRows,
      teams: teamRows.map((row) => row.name),
      applications: applicationRows.map((row) => row.name),
      levels: programme?.levels.length ?? 3,
    };
  },
};
