import type { FacetName } from '@kindred-baton/core/progress/facet';
import { PRIORITIES } from '@kindred-baton/core/values/priority';
import type { NodeId } from '@kindred-baton/core/ids';
import { getPath } from '../map/load-tree.ts';
import type { Tree } from '../map/load-tree.ts';
import type { CycleTurn } from '../runs/load-holds.ts';
import type { TurnFilter } from './filter-turns.ts';
import { byApplication, byNode, byPerson, byPriority, byScenario, byTeam } from './filter-turns.ts';

export interface FacetNames {
  readonly tree: Tree;
  readonly teams: ReadonlyMap<string, string>;
  readonly people: ReadonlyMap<string, string>;
  readonly applications: ReadonlyMap<string, string>;
  readonly scenarios: ReadonlyMap<string, { code: string; name: string }>;
  readonly applicationOfTest: ReadonlyMap<string, string | null>;
}

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

interface TurnFacet {
  /** A turn's value. */
  readonly read: (turn: CycleTurn, names: FacetNames) => FacetValue;
  /** Which turns have a value: what the count of a row or column opens. */
  readonly filter: TurnFilter;
}

/** Every facet of core/progress/facet.ts: how it is read of a turn, and how its turns are found again. */
export const TURN_FACETS: Readonly<Record<FacetName, TurnFacet>> = {
  process: { read: (turn, { tree }) => readProcess(tree, turn.nodeId), filter: byNode },
  team: { read: (turn, { teams }) => named(teams, turn.teamId) ?? NO_TEAM, filter: byTeam },
  person: { read: (turn, { people }) => named(people, turn.assignee ?? '') ?? NOBODY, filter: byPerson },
  application: {
    read: (turn, { applications, applicationOfTest }) => named(applications, applicationOfTest.get(turn.testId ?? '') ?? '') ?? NONE,
    filter: byApplication,
  },
  priority: {
    read: ({ priority }) => ({ key: priority, name: priority, group: '', order: PRIORITIES.findIndex((each) => each === priority) }),
    filter: byPriority,
  },
  scenario: {
    read: (turn, { scenarios }) => {
      const scenario = scenarios.get(turn.scenarioId);
      return scenario ? { key: scenario.code, name: scenario.name, group: '', order: 0 } : NONE;
    },
    filter: byScenario,
  },
};

/** The order in which names were loaded is the order in which they are shown. */
function named(names: ReadonlyMap<string, string>, id: string): FacetValue | undefined {
  const name = names.get(id);
  return name === undefined ? undefined : { key: name, name, group: '', order: [...names.keys()].indexOf(id) };
}

/** The second level of the map (a stream's process); a turn at a stream itself is counted there. */
function readProcess(tree: Tree, nodeId: NodeId): FacetValue {
  const path = getPath(tree, nodeId);
  const entry = path[1] ?? path[0];
  return entry ? { key: entry.node.code, name: entry.node.name, group: path[0]?.node.name ?? '', order: entry.order } : NONE;
}
