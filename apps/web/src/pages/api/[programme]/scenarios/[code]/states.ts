import { scenarioStatesSchema } from '@kindred-baton/contracts/scenarios/reuse';
import { listScenarioStates } from '@kindred-baton/store/scenarios/compare-scenario';
import { defineEndpoint } from '../../../../../server/endpoint.ts';

export const GET = defineEndpoint({ output: scenarioStatesSchema, handle: ({ ask, param }) => ask(listScenarioStates, param('code')) });
