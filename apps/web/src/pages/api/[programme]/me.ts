import { doneSchema } from '@kindred-baton/contracts/common';
import { profileSchema, saveProfileSchema } from '@kindred-baton/contracts/programmes/programme';
import { getProfile, saveProfile } from '@kindred-baton/store/programmes/profile';
import { defineEndpoint } from '../../../server/endpoint.ts';

export const GET = defineEndpoint({ output: profileSchema, handle: ({ ask }) => ask(getProfile, undefined) });

export const PATCH = defineEndpoint({
  input: saveProfileSchema,
  output: doneSchema,
  handle: ({ perform, body }) => perform(saveProfile, body),
});
