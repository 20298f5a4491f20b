import { z } from 'zod';
import { doneSchema, idSchema } from '../common.ts';
import { defineRoutes } from '../route.ts';
import * as door from './door.ts';

const one = { door: idSchema<'door'>() };
const own = { right: 'set up the programme', topics: ['programme'] } as const;
const madeSchema = z.object({ id: idSchema<'door'>() });

export const doorRoutes = defineRoutes({
  listDoors: { method: 'GET', path: '/doors', output: door.doorListSchema, right: 'read', topics: ['programme'] },
  addDoor: { method: 'POST', path: '/doors', input: door.saveDoorSchema, output: madeSchema, ...own },
  saveDoor: { method: 'PUT', path: '/doors/:door', params: one, input: door.saveDoorSchema, output: madeSchema, ...own },
  removeDoor: { method: 'DELETE', path: '/doors/:door', params: one, output: doneSchema, ...own },
  /** Goes through it once, to see that it opens. */
  tryDoor: {
    ...{ method: 'POST', path: '/doors/:door/try', params: one, output: door.doorAnswerSchema },
    ...{ right: 'set up the programme', topics: [] },
  },
});
