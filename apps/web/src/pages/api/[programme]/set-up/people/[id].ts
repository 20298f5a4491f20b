import { doneSchema, idSchema } from '@kindred-baton/contracts/common';
import { leaveSchema, leftSchema, savePersonSchema } from '@kindred-baton/contracts/programmes/programme';
import { leaveProgramme, savePerson } from '@kindred-baton/store/programmes/change-people';
import { defineEndpoint } from '../../../../../server/endpoint.ts';

const idOf = (text: string) => idSchema<'person'>().parse(text);

export const PUT = defineEndpoint({
  input: savePersonSchema,
  output: doneSchema,
  handle: ({ perform, param, body }) => perform(savePerson, { personId: idOf(param('id')), person: body }),
});

/** She leaves. */
export const DELETE = defineEndpoint({
  input: leaveSchema,
  output: leftSchema,
  handle: ({ perform, param, body }) => perform(leaveProgramme, { personId: idOf(param('id')), ...body }),
});
