import { defineRoutes } from '../route.ts';
import { findQuerySchema, foundSchema } from './find.ts';

export const findRoutes = defineRoutes({
  findAnything: { method: 'GET', path: '/find', input: findQuerySchema, output: foundSchema, right: 'read', topics: [] },
});
