import type { FacetName } from '@kindred-baton/core/progress/facet';
import { applicationFacet } from './facets/application.ts';
import { criticalityFacet } from './facets/criticality.ts';
import { cycleFacet } from './facets/cycle.ts';
import { dueFacet, endedFacet } from './facets/days.ts';
import type { TurnFacet } from './facets/facet.ts';
import { handsFacet } from './facets/hands.ts';
import { personFacet } from './facets/person.ts';
import { priorityFacet } from './facets/priority.ts';
import { processFacet } from './facets/process.ts';
import { purposeFacet } from './facets/purpose.ts';
import { requirementFacet } from './facets/requirement.ts';
import { scenarioFacet } from './facets/scenario.ts';
import { tagFacet } from './facets/tag.ts';
import { teamFacet } from './facets/team.ts';
import { testFacet } from './facets/test.ts';

/** Every facet of core/progress/facet.ts: what it groups turns by, how its values are shown, and how their turns are found again. */
export const TURN_FACETS: Readonly<Record<FacetName, TurnFacet>> = {
  ...{ process: processFacet, team: teamFacet, person: personFacet, application: applicationFacet, priority: priorityFacet },
  ...{ scenario: scenarioFacet, test: testFacet, tag: tagFacet, requirement: requirementFacet, criticality: criticalityFacet },
  ...{ due: dueFacet, ended: endedFacet, hands: handsFacet, cycle: cycleFacet, purpose: purposeFacet },
};
