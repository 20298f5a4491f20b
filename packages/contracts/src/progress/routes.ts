import { defineRoutes } from '../route.ts';
import { progressQuerySchema, progressSchema } from './progress.ts';

export const progressRoutes = defineRoutes({
  getProgress: {
    ...{ method: 'GET', path: '/progress', input: progressQuerySchema, output: progressSchema },
    ...{ right: 'read', topics: ['map', 'cycles', 'turns', 'defects'] },
  },
});
