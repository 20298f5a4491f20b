import { z } from 'zod';
import { doneSchema } from '../common.ts';
import { defineRoutes } from '../route.ts';
import * as requirement from './requirement.ts';

const codeSchema = z.object({ code: z.string() });
const change = { right: 'edit map', topics: ['map'] } as const;

export const requirementRoutes = defineRoutes({
  getTraceability: {
    ...{ method: 'GET', path: '/requirements', output: requirement.traceabilitySchema },
    ...{ right: 'read', topics: ['map', 'tests', 'turns'] },
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
