import type { runnerRoutes } from '@kindred-baton/contracts/runners/routes';
import { getRunners } from '@kindred-baton/store/runners/get-runners';
import { hearRunner, partRunner } from '@kindred-baton/store/runners/hear-runner';
import { addPool, listPools, removePool, savePool } from '@kindred-baton/store/runners/pools';
import { addRunner, orderRunner, retireRunner } from '@kindred-baton/store/runners/runners';
import { askTrial, finishTrial, getTrial, getTrialPicture, recordTrial, stopTrial } from '@kindred-baton/store/runners/trials';
import { answerPicture, readJpeg } from './trial-picture.ts';
import type { Answers } from '../../call.ts';
import { answerWork } from './answer-work.ts';

export const runnerAnswers: Answers<typeof runnerRoutes> = {
  getRunners: ({ ask }) => ask(getRunners, undefined),
  listPools: ({ ask }) => ask(listPools, undefined),
  addPool: ({ perform, input }) => perform(addPool, input),
  savePool: ({ perform, params, input }) => perform(savePool, { id: params.pool, pool: input }),
  removePool: ({ perform, params }) => perform(removePool, params.pool),
  addRunner: ({ perform, input }) => perform(addRunner, input),
  orderRunner: ({ perform, params, input }) => perform(orderRunner, { id: params.runner, ...input }),
  retireRunner: ({ perform, params }) => perform(retireRunner, params.runner),
  askTrial: ({ perform, input }) => perform(askTrial, input),
  getTrial: ({ ask, params }) => ask(getTrial, params.trial),
  getTrialPicture: async ({ ask, params }) => answerPicture(await ask(getTrialPicture, params.trial)),
  stopTrial: ({ perform, params }) => perform(stopTrial, params.trial),
  recordTrial: ({ perform, params, input: { picture, ...result } }) =>
    perform(recordTrial, { id: params.trial, result, picture: picture === undefined ? null : readJpeg(picture) }),
  finishTrial: ({ perform, params }) => perform(finishTrial, params.trial),
  askWork: answerWork,
  partRunner: ({ perform, input }) => perform(partRunner, input),
  hearRunner: ({ perform, input }) => perform(hearRunner, input),
};
