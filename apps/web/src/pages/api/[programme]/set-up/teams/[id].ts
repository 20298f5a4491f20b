import { doneSchema, idSchema } from '@kindred-baton/contracts/common';
import { saveTeamSchema } from '@kindred-baton/contracts/programmes/programme';
import { removeTeam, saveTeam } from '@kindred-baton/store/programmes/change-programme';
import { z } from 'zod';
import { defineEndpoint } from '../../../../../server/endpoint.ts';

const idOf = (text: string) => idSchema<'team'>().parse(text);

export const PUT = defineEndpoint({
  input: saveTeamSchema,
  output: z.object({ id: idSchema<'team'>() }),
  handle: ({ perform, param, body }) => perform(saveTeam, { id: idOf(param('id')), team: body }),
});

export const DELETE = defineEndpoint({ output: doneSchema, handle: ({ perform, param }) => perform(removeTeam, idOf(param('id'))) });
