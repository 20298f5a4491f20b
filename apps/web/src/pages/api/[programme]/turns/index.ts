import { turnsHomeSchema } from '@kindred-baton/contracts/turns/turn';
import { getTurnsHome } from '@kindred-baton/store/turns/get-turns-home';
import { defineEndpoint } from '../../../../server/endpoint.ts';

export const GET = defineEndpoint({ output: turnsHomeSchema, handle: ({ ask }) => ask(getTurnsHome, undefined) });
