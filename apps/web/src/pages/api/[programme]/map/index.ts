import { editMapSchema, mapEditedSchema, mapViewSchema } from '@kindred-baton/contracts/map/node';
import { editMap } from '@kindred-baton/store/map/edit-map';
import { getMap } from '@kindred-baton/store/map/get-map';
import { defineEndpoint } from '../../../../server/endpoint.ts';

export const GET = defineEndpoint({ output: mapViewSchema, handle: ({ ask }) => ask(getMap, undefined) });

export const PATCH = defineEndpoint({
  input: editMapSchema,
  output: mapEditedSchema,
  handle: ({ perform, body }) => perform(editMap, body),
});
