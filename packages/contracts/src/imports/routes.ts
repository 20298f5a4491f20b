import { defineRoutes } from '../route.ts';
import {
  dataRowsReadSchema,
  mapImportPreviewSchema,
  requirementImportPreviewSchema,
  scenarioImportPreviewSchema,
  testImportPreviewSchema,
  workbookImportPreviewSchema,
} from './import.ts';

export const importRoutes = defineRoutes({
  /** Our own workbook is looked at; with the fingerprint of what was seen it is stored. */
  importWorkbook: {
    ...{ method: 'POST', path: '/imports', takes: 'file', output: workbookImportPreviewSchema },
    ...{ right: 'edit map', topics: ['map', 'tests', 'scenarios'] },
  },
  getWorkbookTemplate: { method: 'GET', path: '/imports/template', output: null, right: 'read', topics: [] },
  importMap: { method: 'POST', path: '/map/import', takes: 'file', output: mapImportPreviewSchema, right: 'edit map', topics: ['map'] },
  importRequirements: {
    method: 'POST',
    path: '/requirements/import',
    takes: 'file',
    output: requirementImportPreviewSchema,
    right: 'edit map',
    topics: ['map'],
  },
  /** Data rows read from a spreadsheet, for the draft. */
  readDataRows: { method: 'POST', path: '/tests/:code/rows', takes: 'file', output: dataRowsReadSchema, right: 'read', topics: [] },
  importTests: {
    method: 'POST',
    path: '/library/import',
    takes: 'file',
    output: testImportPreviewSchema,
    right: 'edit tests',
    topics: ['tests'],
  },
  importScenarios: {
    method: 'POST',
    path: '/scenarios/import',
    takes: 'file',
    output: scenarioImportPreviewSchema,
    right: 'edit scenarios',
    topics: ['scenarios'],
  },
});
