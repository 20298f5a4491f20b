import { z } from 'zod';
import { doneSchema } from '../common.ts';
import { defineRoutes } from '../route.ts';
import * as reuse from './reuse.ts';
import * as scenario from './scenario.ts';

const read = { right: 'read', topics: ['scenarios', 'tests', 'cycles'] } as const;
const change = { right: 'edit scenarios', topics: ['scenarios'] } as const;
const codeSchema = z.object({ code: z.string() });
const changedSchema = z.object({ changed: z.int() });

export const scenarioRoutes = defineRoutes({
  listScenarios: {
    ...{ method: 'GET', path: '/scenarios', input: scenario.scenarioListQuerySchema, output: scenario.scenarioListSchema },
    ...read,
  },
  /** How many have a baton that does not arrive. */
  countToFix: {
    ...{ method: 'GET', path: '/scenarios-to-fix', input: scenario.scenarioListQuerySchema.pick({ scope: true }) },
    ...{ output: z.object({ toFix: z.int() }), ...read },
  },
  listScenarioNames: { method: 'GET', path: '/scenario-names', output: scenario.scenarioNamesSchema, ...read },
  createScenario: { method: 'POST', path: '/scenarios', input: scenario.createScenarioSchema, output: codeSchema, ...change },
  getScenario: { method: 'GET', path: '/scenarios/:code', output: scenario.scenarioDetailSchema, ...read },
  changeScenario: { method: 'PATCH', path: '/scenarios/:code', input: scenario.changeScenarioSchema, output: doneSchema, ...change },
  editScenario: {
    ...{ method: 'PATCH', path: '/scenarios/:code/document', input: scenario.editScenarioSchema, output: scenario.scenarioUndoSchema },
    ...change,
  },
  draftForLeg: {
    ...{ method: 'POST', path: '/scenarios/:code/draft', input: reuse.draftForLegSchema, output: codeSchema },
    ...{ right: 'edit tests', topics: ['tests', 'scenarios'] },
  },
  compareScenario: {
    ...{ method: 'GET', path: '/scenarios/:code/compare', input: reuse.compareQuerySchema, output: reuse.comparisonSchema },
    ...read,
  },
  listScenarioStates: { method: 'GET', path: '/scenarios/:code/states', output: reuse.scenarioStatesSchema, ...read },
  getMapWay: { method: 'GET', path: '/scenarios/:code/way', output: reuse.mapWaySchema, ...read },
  proposeForLegs: { method: 'GET', path: '/scenarios/:code/proposals', output: reuse.legProposalsSchema, ...read },
  exportScenario: { method: 'GET', path: '/scenarios/:code/export', output: null, right: 'read', topics: [] },
  findChain: { method: 'GET', path: '/chains/find', input: reuse.findChainSchema, output: reuse.foundChainSchema, ...read },
  getMapGaps: { method: 'GET', path: '/chains/gaps', output: reuse.mapGapsSchema, ...read },
  getOverlaps: { method: 'GET', path: '/chains/overlaps', output: reuse.overlapsSchema, ...read },
  getChangeReview: {
    ...{ method: 'GET', path: '/chains/review', input: reuse.changeReviewQuerySchema, output: reuse.changeReviewSchema },
    ...read,
  },
  /** Takes the newest version over. */
  takeVersion: { method: 'POST', path: '/chains/review', input: reuse.takeVersionSchema, output: changedSchema, ...change },
  /** Puts another test in its place. */
  replaceTest: { method: 'PUT', path: '/chains/review', input: reuse.replaceTestSchema, output: changedSchema, ...change },
});
