import { z } from 'zod';
import { doneSchema } from '../common.ts';
import { defineRoutes } from '../route.ts';
import * as requirement from './requirement.ts';

const codeSchema = z.object({ code: z.string() });
const change = { right: 'edit map', topics: ['map'] } as const;

export const requirementRoutes = defineRoutes({
  getTraceability: {
    ...{ method: 'GET', path: '/requirements', input: requirement.requirementQuerySchema, output: requirement.traceabilitySchema },
    ...{ right: 'read', topics: ['map', 'tests', 'turns'] },
  },
  /** What somebody typed of tests, as codes; what is neither code nor name stays as it is. */
  readTestLinks: {
    ...{ method: 'POST', path: '/requirements/links/read', input: requirement.readTestLinksSchema, output: requirement.testLinksSchema },
    ...{ right: 'read', topics: [] },
  },
  addRequirement: { method: 'POST', path: '/requirements', input: requirement.saveRequirementSchema, output: codeSchema, ...change },
  saveRequirement: {
    method: 'PUT',
    path: '/requirements/at/:code',
    input: requirement.saveRequirementSchema,
    output: codeSchema,
    ...change,
  },
  removeRequirement: { method: 'DELETE', path: '/requirements/at/:code', output: doneSchema, ...change },
  /** A cell of the matrix: whether a test serves a requirement. */
  linkTest: { method: 'PUT', path: '/requirements/links', input: requirement.linkTestSchema, output: doneSchema, ...change },
  /** The requirements as XLSX, CSV or ReqIF. */
  exportRequirements: { method: 'GET', path: '/requirements/export', output: null, right: 'read', topics: [] },
});
