import type { progressRoutes } from '@kindred-baton/contracts/progress/routes';
import { DONE } from '@kindred-baton/contracts/common';
import { getOutlook, keepDecision, takeBackDecision } from '@kindred-baton/store/progress/decisions';
import { getProgress } from '@kindred-baton/store/progress/get-progress';
import { getEffort } from '@kindred-baton/store/progress/get-effort';
import { getMinuteProposals, takeMinutes } from '@kindred-baton/store/progress/planned-minutes';
import { getHolds } from '@kindred-baton/store/progress/get-holds';
import { getCourse } from '@kindred-baton/store/progress/get-course';
import { getDefectCourse } from '@kindred-baton/store/progress/get-defect-course';
import { getSince } from '@kindred-baton/store/progress/get-since';
import { getTeamProgress } from '@kindred-baton/store/progress/get-team-progress';
import { getStepTries, getWrongSteps } from '@kindred-baton/store/progress/get-wrong-steps';
import { answerProgressFile } from './answer-progress-file.ts';
import type { Answers } from '../../call.ts';

export const progressAnswers: Answers<typeof progressRoutes> = {
  getProgress: ({ ask, input }) => ask(getProgress, input),
  getProgressFile: answerProgressFile,
  getHolds: ({ ask, input }) => ask(getHolds, input),
  getCourse: ({ ask, input }) => ask(getCourse, input),
  getDefectCourse: ({ ask, input }) => ask(getDefectCourse, input),
  getEffort: ({ ask, input }) => ask(getEffort, input),
  getMinuteProposals: ({ ask }) => ask(getMinuteProposals, undefined),
  takeMinutes: ({ perform, input }) => perform(takeMinutes, input),
  getOutlook: ({ ask, input }) => ask(getOutlook, input),
  keepDecision: async ({ perform, input }) => {
    await perform(keepDecision, input);
    return DONE;
  },
  takeBackDecision: async ({ perform, params }) => {
    await perform(takeBackDecision, params.decision);
    return DONE;
  },
  getSince: ({ ask, input }) => ask(getSince, input),
  getTeamProgress: ({ ask, input }) => ask(getTeamProgress, input),
  getWrongSteps: ({ ask, input }) => ask(getWrongSteps, input),
  getStepTries: ({ ask, input }) => ask(getStepTries, input),
};
