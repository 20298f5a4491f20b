import { z } from 'zod';
import { doneSchema } from '../common.ts';
import { defineRoutes } from '../route.ts';
import * as node from './node.ts';
import { outlineSchema, stripQuerySchema, stripSchema } from './strip.ts';

const topics = ['map', 'tests', 'scenarios', 'turns'] as const;
const change = { right: 'edit map', topics: ['map'] } as const;

export const mapRoutes = defineRoutes({
  getStrip: {
    ...{ method: 'GET', path: '/strip', input: stripQuerySchema, output: stripSchema, right: 'read' },
    topics: ['map', 'cycles', 'turns'],
  },
  getOutline: { method: 'GET', path: '/map/outline', output: outlineSchema, right: 'read', topics: ['map'] },
  getMap: { method: 'GET', path: '/map', output: node.mapViewSchema, right: 'read', topics },
  editMap: { method: 'PATCH', path: '/map', input: node.editMapSchema, output: node.mapEditedSchema, ...change },
  getNode: { method: 'GET', path: '/map/nodes/:code', output: node.nodeDetailSchema, right: 'read', topics },
  changeLevels: { method: 'PUT', path: '/map/levels', input: node.changeLevelsSchema, output: doneSchema, ...change },
  /** What hangs on nodes; codes joined by commas. */
  getHangs: { method: 'GET', path: '/map/hangs', input: z.object({ codes: z.string() }), output: node.hangsSchema, right: 'read', topics },
  /** Moves what hangs there to another node. */
  moveHangs: {
    ...{ method: 'POST', path: '/map/hangs', input: node.moveHangsSchema, output: z.object({ moved: z.int() }) },
    ...{ right: 'edit map', topics: ['map', 'tests', 'scenarios'] },
  },
  getMapChanges: {
    ...{ method: 'GET', path: '/cycles/:code/map-changes', output: z.object({ changes: z.array(node.nodeChangeSchema) }) },
    ...{ right: 'read', topics: ['map'] },
  },
  /** The map, or the branch of `scope`, as XLSX, CSV, JSON or BPMN. */
  exportMap: { method: 'GET', path: '/map/export', output: null, right: 'read', topics: [] },
});
