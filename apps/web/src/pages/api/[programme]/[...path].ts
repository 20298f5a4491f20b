import { serve } from '../../../server/serve.ts';

/** Everything under /api/<programme>: see contracts/routes.ts for what there is. */
export const ALL = serve;
