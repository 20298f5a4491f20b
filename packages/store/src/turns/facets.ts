import type { FacetName } from '@kindred-baton/core/progress/facet';
import { PRIORITIES } from '@kindred-baton/core/values/priority';
import type { NodeId } from '@kindred-baton/core/ids';
import { asc, eq } from 'drizzle-orm';
import type { AnyPgColumn } from 'drizzle-orm/pg-core';
import { getPath, loadTree } from '../map/load-tree.ts';
import type { Tree } from '../map/load-tree.ts';
import type { ReadContext } from '../operation.ts';
import { runs } from '../schema/cycles.ts';
import { people } from '../schema/people.ts';
import { applications, members, teams } from '../schema/programmes.ts';
import { scenarios } from '../schema/scenarios.ts';
import { tests } from '../schema/tests.ts';
import { turns } from '../schema/turns.ts';
import type { TurnFilter } from './filter-turns.ts';
import { byApplication, byNode, byPerson, byPriority, byScenario, byTeam } from './filter-turns.ts';

export interface FacetValue {
  /** What the list of turns is filtered by. */
  readonly key: string;
  readonly name: string;
  readonly group: string;
  readonly order: number;
}

const NOBODY: FacetValue = { key: '', name: 'Nobody yet', group: '', order: Number.MAX_SAFE_INTEGER };
const NO_TEAM: FacetValue = { ...NOBODY, name: 'No team' };
const NONE: FacetValue = { ...NOBODY, name: 'None' };

/** How what stands in a facet's column is shown; empty: nothing stands there. */
type ReadValue = (value: string) => FacetValue;

interface TurnFacet {
  /** What turns are counted by: of the turn, its run or its test. */
  readonly column: AnyPgColumn;
  readonly load: (context: ReadContext) => Promise<ReadValue>;
  /** Which turns have a value: what the count of a row or column opens. */
  readonly filter: TurnFilter;
}

/** Every facet of core/progress/facet.ts: what it groups turns by, how its values are shown, and how their turns are found again. */
export const TURN_FACETS: Readonly<Record<FacetName, TurnFacet>> = {
  process: {
    column: turns.nodeId,
    load: async (context) => {
      const tree = await loadTree(context);
      return (id) => readProcess(tree, id as NodeId);
    },
    filter: byNode,
  },
  team: {
    column: turns.teamId,
    load: ({ db, actor }) =>
      toNamed(
        db
          .select({ id: teams.id, name: teams.name })
          .from(teams)
          .where(eq(teams.programmeId, actor.programmeId))
          .orderBy(asc(teams.position), asc(teams.name)),
        NO_TEAM,
      ),
    filter: byTeam,
  },
  person: {
    column: turns.assigneeId,
    load: ({ db, actor }) =>
      toNamed(
        db
          .select({ id: people.id, name: people.name })
          .from(members)
          .innerJoin(people, eq(people.id, members.personId))
          .where(eq(members.programmeId, actor.programmeId))
          .orderBy(asc(people.name)),
        NOBODY,
      ),
    filter: byPerson,
  },
  application: {
    column: tests.applicationId,
    load: ({ db, actor }) =>
      toNamed(
        db
          .select({ id: applications.id, name: applications.name })
          .from(applications)
          .where(eq(applications.programmeId, actor.programmeId))
          .orderBy(asc(applications.name)),
        NONE,
      ),
    filter: byApplication,
  },
  priority: {
    column: runs.priority,
    load: async () => (priority) => ({
      key: priority,
      name: priority,
      group: '',
      order: PRIORITIES.findIndex((each) => each === priority),
    }),
    filter: byPriority,
  },
  scenario: {
    column: runs.scenarioId,
    load: async ({ db, actor }) => {
      const rows = await db
        .select({ id: scenarios.id, code: scenarios.code, name: scenarios.name })
        .from(scenarios)
        .where(eq(scenarios.programmeId, actor.programmeId));
      const values = new Map<string, FacetValue>(rows.map(({ id, code, name }) => [id, { key: code, name, group: '', order: 0 }]));
      return (id) => values.get(id) ?? NONE;
    },
    filter: byScenario,
  },
};

/** The order in which names come is the order in which they are shown. */
async function toNamed(rows: PromiseLike<readonly { readonly id: string; readonly name: string }[]>, none: FacetValue): Promise<ReadValue> {
  const values = new Map((await rows).map(({ id, name }, order) => [id, { key: name, name, group: '', order }]));
  return (id) => values.get(id) ?? none;
}

/** The second level of the map (a stream's process); a turn at a stream itself is counted there. */
function readProcess(tree: Tree, nodeId: NodeId): FacetValue {
  const path = getPath(tree, nodeId);
  const entry = path[1] ?? path[0];
  return entry ? { key: entry.node.code, name: entry.node.name, group: path[0]?.node.name ?? '', order: entry.order } : NONE;
}
