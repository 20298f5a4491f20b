import { holidaysQuerySchema, holidaysSchema } from '@kindred-baton/contracts/programmes/programme';
import { listHolidays } from '../../../../server/answers/programmes/list-holidays.ts';
import { defineEndpoint } from '../../../../server/endpoint.ts';

export const GET = defineEndpoint({ input: holidaysQuerySchema, output: holidaysSchema, handle: async ({ body }) => listHolidays(body) });
