import { idSchema } from '@kindred-baton/contracts/common';
import { saveTeamSchema } from '@kindred-baton/contracts/programmes/programme';
import { saveTeam } from '@kindred-baton/store/programmes/change-programme';
import { z } from 'zod';
import { defineEndpoint } from '../../../../../server/endpoint.ts';

export const POST = defineEndpoint({
  input: saveTeamSchema,
  output: z.object({ id: idSchema<'team'>() }),
  handle: ({ perform, body }) => perform(saveTeam, { id: null, team: body }),
});
