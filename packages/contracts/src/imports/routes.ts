import { defineRoutes } from '../route.ts';
import { importPreviewSchema } from './import.ts';

export const importRoutes = defineRoutes({
  /** Our own workbook is looked at; with the fingerprint of what was seen it is stored. */
  importWorkbook: {
    ...{ method: 'POST', path: '/imports', takes: 'file', output: importPreviewSchema },
    ...{ right: 'edit map', topics: ['map', 'tests', 'scenarios'] },
  },
  getWorkbookTemplate: { method: 'GET', path: '/imports/template', output: null, right: 'read', topics: [] },
});
