import type { findRoutes } from '@kindred-baton/contracts/find/routes';
import { findAnything } from '@kindred-baton/store/find/find-anything';
import type { Answers } from '../../call.ts';

export const findAnswers: Answers<typeof findRoutes> = {
  findAnything: ({ ask, input }) => ask(findAnything, input.q),
};
