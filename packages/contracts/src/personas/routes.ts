import { z } from 'zod';
import { doneSchema, idSchema } from '../common.ts';
import { defineRoutes } from '../route.ts';
import * as persona from './persona.ts';

const madeSchema = z.object({ id: idSchema<'persona'>() });
const change = { right: 'edit tests', topics: ['tests'] } as const;

export const personaRoutes = defineRoutes({
  listPersonas: { method: 'GET', path: '/personas', output: persona.personaListSchema, right: 'read', topics: ['tests'] },
  addPersona: { method: 'POST', path: '/personas', input: persona.savePersonaSchema, output: madeSchema, ...change },
  savePersona: {
    ...{ method: 'PUT', path: '/personas/:persona', params: { persona: idSchema<'persona'>() }, input: persona.savePersonaSchema },
    ...{ output: madeSchema, ...change },
  },
  removePersona: {
    method: 'DELETE',
    path: '/personas/:persona',
    params: { persona: idSchema<'persona'>() },
    output: doneSchema,
    ...change,
  },
});
