import { DONE } from '@kindred-baton/contracts/common';
import type { testRoutes } from '@kindred-baton/contracts/tests/routes';
import { agreeTests, changeTests } from '@kindred-baton/store/tests/change-many-tests';
import { agreeTest, createTest, discardDraft, saveTest } from '@kindred-baton/store/tests/change-tests';
import { getLibraryFindings } from '@kindred-baton/store/tests/get-library-findings';
import { getTest } from '@kindred-baton/store/tests/get-test';
import { getTestSurroundings } from '@kindred-baton/store/tests/get-test-surroundings';
import { listTestCodes, listTests } from '@kindred-baton/store/tests/list-tests';
import { waiveFinding } from '@kindred-baton/store/tests/waive-finding';
import { takeNewerVersion } from '@kindred-baton/store/turns/take-newer-version';
import type { Answers } from '../../call.ts';
import { answerDataRowFile } from './answer-data-rows.ts';
import { answerTestExport } from './answer-test-export.ts';

export const testAnswers: Answers<typeof testRoutes> = {
  listTests: ({ ask, input }) => ask(listTests, input),
  createTest: ({ perform, input }) => perform(createTest, input),
  agreeTests: ({ perform, input }) => perform(agreeTests, input),
  changeTests: ({ perform, input }) => perform(changeTests, input),
  getTest: ({ ask, params, input }) => ask(getTest, { ...params, number: input.version }),
  saveTest: ({ perform, params, input }) => perform(saveTest, { ...params, save: input }),
  agreeTest: ({ perform, params, input }) => perform(agreeTest, { ...params, ...input }),
  discardDraft: ({ perform, params, input }) => perform(discardDraft, { ...params, ...input }),
  getTestSurroundings: ({ ask, params }) => ask(getTestSurroundings, params),
  takeNewerVersion: ({ perform, params, input }) => perform(takeNewerVersion, { ...params, ...input }),
  waiveFinding: async ({ perform, params, input }) => {
    await perform(waiveFinding, { ...params, waive: input });
    return DONE;
  },
  exportDataRows: answerDataRowFile,
  listTestCodes: ({ ask, input }) => ask(listTestCodes, input),
  getLibraryFindings: ({ ask, input }) => ask(getLibraryFindings, input),
  exportTest: answerTestExport,
};
