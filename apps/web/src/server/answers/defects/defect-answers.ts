import type { defectRoutes } from '@kindred-baton/contracts/defects/routes';
import { logDefect, logDefectApart, moveDefect } from '@kindred-baton/store/defects/change-defects';
import { getDefect, listDefectPage } from '@kindred-baton/store/defects/get-defects';
import { changeDefect, getLikelySame, joinDefect, sayDefect } from '@kindred-baton/store/defects/talk-about-defects';
import type { Answers } from '../../call.ts';
import { answerDefectExport } from './answer-defect-export.ts';

export const defectAnswers: Answers<typeof defectRoutes> = {
  listDefects: ({ ask, input }) => ask(listDefectPage, input),
  logDefect: ({ perform, input }) => perform(logDefect, input),
  logDefectApart: ({ perform, input }) => perform(logDefectApart, input),
  getDefect: ({ ask, params }) => ask(getDefect, params.code),
  changeDefect: ({ perform, params, input }) => perform(changeDefect, { ...params, change: input }),
  moveDefect: ({ perform, params, input }) => perform(moveDefect, { ...params, move: input }),
  sayDefect: ({ perform, params, input }) => perform(sayDefect, { ...params, ...input }),
  getLikelySame: ({ ask, input }) => ask(getLikelySame, input),
  joinDefect: ({ perform, input }) => perform(joinDefect, input),
  exportDefects: answerDefectExport,
};
