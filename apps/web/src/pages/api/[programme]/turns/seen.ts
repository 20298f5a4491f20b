import { doneSchema } from '@kindred-baton/contracts/common';
import { markSeen } from '@kindred-baton/store/turns/get-turns-home';
import { defineEndpoint } from '../../../../server/endpoint.ts';

export const POST = defineEndpoint({ output: doneSchema, handle: ({ perform }) => perform(markSeen, undefined) });
