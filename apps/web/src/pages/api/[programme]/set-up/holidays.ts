import { holidaysQuerySchema, holidaysSchema } from '@kindred-baton/contracts/programmes/programme';
import { listHolidays } from '../../../../features/set-up/answer-holidays.ts';
import { defineEndpoint } from '../../../../server/endpoint.ts';

export const GET = defineEndpoint({ input: holidaysQuerySchema, output: holidaysSchema, handle: async ({ body }) => listHolidays(body) });
