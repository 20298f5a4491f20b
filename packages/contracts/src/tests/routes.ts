import { z } from 'zod';
import { doneSchema } from '../common.ts';
import { defineRoutes } from '../route.ts';
import * as library from './library.ts';
import * as test from './test.ts';

const read = { right: 'read', topics: ['tests', 'turns'] } as const;
const change = { right: 'edit tests', topics: ['tests'] } as const;
const codeSchema = z.object({ code: z.string() });

export const testRoutes = defineRoutes({
  listTests: { method: 'GET', path: '/tests', input: library.testFilterSchema, output: library.testListSchema, ...read },
  createTest: { method: 'POST', path: '/tests', input: test.createTestSchema, output: codeSchema, ...change },
  /** The same change of many. */
  changeTests: { method: 'PATCH', path: '/tests', input: library.changeTestsSchema, output: z.object({ changed: z.int() }), ...change },
  /** Agrees the drafts of many. */
  agreeTests: {
    ...{ method: 'POST', path: '/tests/agree', input: library.agreeTestsSchema, output: library.agreedTestsSchema },
    ...{ right: 'agree tests', topics: ['tests', 'scenarios'] },
  },
  getTest: {
    ...{ method: 'GET', path: '/tests/:code', input: z.object({ version: z.coerce.number().int().positive().optional() }) },
    ...{ output: test.testDetailSchema, ...read },
  },
  saveTest: {
    ...{ method: 'PUT', path: '/tests/:code', input: test.saveTestSchema, output: z.object({ number: z.int(), revision: z.int() }) },
    ...change,
  },
  agreeTest: {
    ...{ method: 'POST', path: '/tests/:code/agree', input: test.agreeTestSchema, output: z.object({ number: z.int() }) },
    ...{ right: 'agree tests', topics: ['tests', 'scenarios'] },
  },
  /** Drops the draft: the agreed version before it is the newest again. */
  discardDraft: {
    ...{ method: 'DELETE', path: '/tests/:code/draft', input: test.agreeTestSchema, output: z.object({ number: z.int() }) },
    ...change,
  },
  /** What the editor knows around a test: for findings, completion, and where which version is pinned. */
  getTestSurroundings: { method: 'GET', path: '/tests/:code/surroundings', output: test.testSurroundingsSchema, ...read },
  /** Turns of a cycle that nobody has begun take the newest agreed version over. */
  takeNewerVersion: {
    ...{ method: 'POST', path: '/tests/:code/newer', input: test.takeNewerSchema },
    ...{ output: z.object({ changed: z.int(), version: z.int() }), right: 'run cycles', topics: ['tests', 'turns'] },
  },
  /** Waives a finding with a note; without one it counts again. */
  waiveFinding: { method: 'PUT', path: '/tests/:code/waivers', input: test.waiveSchema, output: doneSchema, ...change },
  /** The data rows as a workbook. */
  exportDataRows: { method: 'GET', path: '/tests/:code/rows', output: null, right: 'read', topics: [] },
  /** The codes of all tests that a view of the library finds. */
  listTestCodes: {
    ...{ method: 'GET', path: '/library/codes', input: library.testFilterSchema, output: z.object({ codes: z.array(z.string()) }) },
    ...read,
  },
  getLibraryFindings: {
    ...{ method: 'GET', path: '/library/findings', input: library.findingFilterSchema, output: library.libraryFindingsSchema },
    ...read,
  },
  /** One test as a file, at once. */
  exportTest: { method: 'GET', path: '/library/export', output: null, right: 'read', topics: [] },
});
