import { z } from 'zod';
import { codeSchema, doneSchema, idSchema } from '../common.ts';
import { defineRoutes } from '../route.ts';
import * as acceptance from './acceptance.ts';
import * as cycle from './cycle.ts';
import * as plan from './plan.ts';

const read = { right: 'read', topics: ['cycles', 'scenarios', 'turns'] } as const;
const change = { right: 'run cycles', topics: ['cycles', 'turns'] } as const;

export const cycleRoutes = defineRoutes({
  listCycles: { method: 'GET', path: '/cycles', output: cycle.cycleListSchema, ...read },
  createCycle: { method: 'POST', path: '/cycles', input: cycle.createCycleSchema, output: z.object({ code: z.string() }), ...change },
  /** What a cycle could take in. */
  getCycleScope: { method: 'GET', path: '/cycles/scope', output: cycle.cycleScopeSchema, ...read, topics: ['cycles', 'scenarios'] },
  getFormerRuns: { method: 'GET', path: '/cycles/:code/held', output: cycle.formerRunsSchema, ...read },
  /** Lets cycles take a test in by itself, with its own data rows. */
  chooseSingleTest: {
    ...{ method: 'POST', path: '/cycles/scope', input: z.object({ test: codeSchema }), output: cycle.scopeScenarioSchema },
    ...{ right: 'run cycles', topics: ['cycles'] },
  },
  getCycle: { method: 'GET', path: '/cycles/:code', output: cycle.cycleDetailSchema, ...read },
  listRuns: { method: 'GET', path: '/cycles/:code/runs', input: cycle.runListQuerySchema, output: cycle.runListSchema, ...read },
  /** How every run stands, and where those that left went. */
  listRunEnds: { method: 'GET', path: '/cycles/:code/run-ends', output: cycle.runEndsSchema, ...read },
  changeCycle: { method: 'PATCH', path: '/cycles/:code', input: cycle.changeCycleSchema, output: doneSchema, ...change },
  moveCycle: {
    ...{ method: 'POST', path: '/cycles/:code/move', input: cycle.moveCycleSchema },
    ...{ output: z.object({ state: cycle.moveCycleSchema.shape.to }), ...change },
  },
  changeScope: {
    method: 'POST',
    path: '/cycles/:code/scope',
    input: cycle.changeScopeSchema,
    output: z.object({ runs: z.int() }),
    ...change,
  },
  /** What taking runs out would set aside: ids joined by commas. */
  getScopeEffects: {
    ...{ method: 'PUT', path: '/cycles/:code/scope', input: z.object({ runs: z.array(idSchema<'run'>()).max(10_000) }) },
    ...{ output: cycle.scopeEffectsSchema, right: 'read', topics: [] },
  },
  getSinceOpening: { method: 'GET', path: '/cycles/:code/since', output: cycle.sinceOpeningSchema, ...read },
  /** Takes a scenario over as it is now. */
  takeScenario: {
    ...{ method: 'POST', path: '/cycles/:code/scenarios', input: z.object({ scenario: codeSchema }), output: z.object({ runs: z.int() }) },
    ...change,
  },
  getPlan: { method: 'GET', path: '/cycles/:code/plan', output: plan.packedPlanSchema, ...read },
  staffCycle: { method: 'POST', path: '/cycles/:code/plan', input: plan.staffCycleSchema, output: plan.staffedSchema, ...change },
  getAcceptance: {
    ...{
      method: 'GET',
      path: '/cycles/:code/acceptance',
      input: z.object({ scope: codeSchema.optional() }),
      output: acceptance.acceptanceSchema,
    },
    ...{ right: 'read', topics: ['cycles', 'turns', 'defects', 'map'] },
  },
  signOffNode: {
    ...{ method: 'POST', path: '/cycles/:code/acceptance', input: acceptance.signOffSchema, output: doneSchema },
    ...{ right: 'sign off', topics: ['cycles'] },
  },
  /** The acceptance report, or a sheet to sign. */
  exportReport: { method: 'GET', path: '/cycles/:code/report', output: null, right: 'read', topics: [] },
});
