import type { DemoPerson, DemoTeam } from './people-and-teams.ts';
import { DEMO_PEOPLE, DEMO_TEAMS, STREAM_OWNERS } from './people-and-teams.ts';
import type { OutlineNode, OutlineTest } from './read-outline.ts';
import { readOutline } from './read-outline.ts';
import type { RequirementPlan } from './requirement-plans.ts';
import { readRequirementPlans } from './requirement-plans.ts';
import type { ScenarioPlan } from './scenario-plans.ts';
import { SCENARIO_PLANS } from './scenario-plans.ts';
import { LEAK_TO_REPAIR } from './streams/leak-to-repair.ts';
import { MATERIALS_IN, PLANT_UPKEEP } from './streams/materials-and-plant.ts';
import { NEW_SUPPLY } from './streams/new-supply.ts';
import { READING_TO_BILL } from './streams/reading-to-bill.ts';

/** What a demo programme is made of, before anything happens in it. */
export interface DemoContents {
  readonly levels: readonly string[];
  readonly teams: readonly DemoTeam[];
  readonly people: readonly DemoPerson[];
  /** In map order. */
  readonly nodes: readonly OutlineNode[];
  readonly tests: readonly OutlineTest[];
  readonly requirements: readonly RequirementPlan[];
  readonly scenarios: readonly ScenarioPlan[];
}

/** Brindlemere Water Trust in its usual size. */
export function readBrindlemere(): DemoContents {
  return {
    ...{ levels: ['stream', 'process', 'activity'], teams: DEMO_TEAMS, people: DEMO_PEOPLE },
    ...readOutline(NEW_SUPPLY + LEAK_TO_REPAIR + READING_TO_BILL + MATERIALS_IN + PLANT_UPKEEP),
    ...{ requirements: readRequirementPlans(), scenarios: SCENARIO_PLANS },
  };
}

/** Who owns a node: the owner of its stream. */
export function findOwner(code: string): string {
  const owner = STREAM_OWNERS[code.slice(0, 2)];
  if (owner === undefined) throw new Error(`Nobody of the demo owns ${code}.`);
  return owner;
}
