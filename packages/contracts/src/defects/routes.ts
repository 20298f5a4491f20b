import { z } from 'zod';
import { doneSchema } from '../common.ts';
import { defineRoutes } from '../route.ts';
import * as defect from './defect.ts';

const codeSchema = z.object({ code: z.string() });
const read = { right: 'read', topics: ['defects', 'turns'] } as const;
const log = { right: 'log defects', topics: ['defects', 'turns'] } as const;

export const defectRoutes = defineRoutes({
  listDefects: { method: 'GET', path: '/defects', input: defect.defectQuerySchema, output: defect.defectPageSchema, ...read },
  logDefect: { method: 'POST', path: '/defects', input: defect.logDefectSchema, output: codeSchema, ...log },
  /** A defect that was seen at no turn. */
  logDefectApart: { method: 'POST', path: '/defects/apart', input: defect.logDefectApartSchema, output: codeSchema, ...log },
  getDefect: { method: 'GET', path: '/defects/:code', output: defect.defectDetailSchema, ...read },
  changeDefect: {
    ...{ method: 'PATCH', path: '/defects/:code', input: defect.changeDefectSchema, output: doneSchema },
    ...{ right: 'log defects', topics: ['defects'] },
  },
  moveDefect: {
    ...{ method: 'POST', path: '/defects/:code/move', input: defect.moveDefectSchema, output: doneSchema },
    ...{ right: 'log defects', topics: ['defects', 'turns'] },
  },
  sayDefect: {
    ...{ method: 'POST', path: '/defects/:code/talk', input: defect.sayDefectSchema, output: doneSchema },
    ...{ right: 'log defects', topics: ['defects'] },
  },
  getLikelySame: {
    ...{ method: 'GET', path: '/defects/likely', input: defect.likelySameQuerySchema, output: defect.likelySameSchema },
    ...{ right: 'log defects', topics: ['defects'] },
  },
  /** Joins instead of doubling. */
  joinDefect: { method: 'POST', path: '/defects/likely', input: defect.joinDefectSchema, output: codeSchema, ...log },
  /** The list as CSV or JSON. */
  exportDefects: { method: 'GET', path: '/defects/export', output: null, right: 'read', topics: [] },
});
