import { DONE } from '@kindred-baton/contracts/common';
import type { requirementRoutes } from '@kindred-baton/contracts/requirements/routes';
import { linkTest, removeRequirement, saveRequirement } from '@kindred-baton/store/requirements/change-requirements';
import { getTraceability, readTestLinks } from '@kindred-baton/store/requirements/list-requirements';
import type { Answers } from '../../call.ts';
import { answerRequirementExport } from './answer-requirement-export.ts';

export const requirementAnswers: Answers<typeof requirementRoutes> = {
  getTraceability: ({ ask, input }) => ask(getTraceability, input),
  readTestLinks: ({ ask, input }) => ask(readTestLinks, input.text),
  addRequirement: ({ perform, input }) => perform(saveRequirement, { code: null, save: input }),
  saveRequirement: ({ perform, params, input }) => perform(saveRequirement, { ...params, save: input }),
  removeRequirement: async ({ perform, params }) => {
    await perform(removeRequirement, params);
    return DONE;
  },
  linkTest: async ({ perform, input }) => {
    await perform(linkTest, input);
    return DONE;
  },
  exportRequirements: answerRequirementExport,
};
