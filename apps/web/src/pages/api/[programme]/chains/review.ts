import {
  changeReviewQuerySchema,
  changeReviewSchema,
  replaceTestSchema,
  takeVersionSchema,
} from '@kindred-baton/contracts/scenarios/reuse';
import { getChangeReview, replaceTest, takeVersion } from '@kindred-baton/store/scenarios/review-change';
import { z } from 'zod';
import { defineEndpoint } from '../../../../server/endpoint.ts';

const changedSchema = z.object({ changed: z.int() });

export const GET = defineEndpoint({
  input: changeReviewQuerySchema,
  output: changeReviewSchema,
  handle: ({ ask, body }) => ask(getChangeReview, body),
});

/** Takes the newest version over. */
export const POST = defineEndpoint({
  input: takeVersionSchema,
  output: changedSchema,
  handle: ({ perform, body }) => perform(takeVersion, body),
});

/** Puts another test in its place. */
export const PUT = defineEndpoint({
  input: replaceTestSchema,
  output: changedSchema,
  handle: ({ perform, body }) => perform(replaceTest, body),
});
