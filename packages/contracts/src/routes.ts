/** Everything that can be asked of the server, by noun. */
import { cycleRoutes } from './cycles/routes.ts';
import { defectRoutes } from './defects/routes.ts';
import { doorRoutes } from './doors/routes.ts';
import { findRoutes } from './find/routes.ts';
import { importRoutes } from './imports/routes.ts';
import { jobRoutes } from './jobs/routes.ts';
import { mapRoutes } from './map/routes.ts';
import { personaRoutes } from './personas/routes.ts';
import { programmeRoutes } from './programmes/routes.ts';
import { progressRoutes } from './progress/routes.ts';
import { requirementRoutes } from './requirements/routes.ts';
import { extractRoutes } from './extracts/routes.ts';
import { boardRoutes } from './boards/routes.ts';
import { runnerRoutes } from './runners/routes.ts';
import { scenarioRoutes } from './scenarios/routes.ts';
import { testRoutes } from './tests/routes.ts';
import { turnRoutes } from './turns/routes.ts';

export const ROUTES = {
  ...programmeRoutes,
  ...mapRoutes,
  ...requirementRoutes,
  ...personaRoutes,
  ...testRoutes,
  ...doorRoutes,
  ...scenarioRoutes,
  ...cycleRoutes,
  ...turnRoutes,
  ...runnerRoutes,
  ...defectRoutes,
  ...progressRoutes,
  ...extractRoutes,
  ...boardRoutes,
  ...importRoutes,
  ...jobRoutes,
  ...findRoutes,
};
export type Routes = typeof ROUTES;
export type RouteName = keyof Routes;
