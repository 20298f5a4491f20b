import { doneSchema } from '@kindred-baton/contracts/common';
import { changeProgrammeSchema, setUpSchema } from '@kindred-baton/contracts/programmes/programme';
import { changeProgramme } from '@kindred-baton/store/programmes/change-programme';
import { getSetUp } from '@kindred-baton/store/programmes/get-set-up';
import { defineEndpoint } from '../../../../server/endpoint.ts';

export const GET = defineEndpoint({ output: setUpSchema, handle: ({ ask }) => ask(getSetUp, undefined) });

export const PATCH = defineEndpoint({
  input: changeProgrammeSchema,
  output: doneSchema,
  handle: ({ perform, body }) => perform(changeProgramme, body),
});
