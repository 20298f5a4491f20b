import { DONE } from '@kindred-baton/contracts/common';
import type { extractRoutes } from '@kindred-baton/contracts/extracts/routes';
import { addAddress, listAddresses, withdrawAddress } from '@kindred-baton/store/extracts/data-addresses';
import type { Answers } from '../../call.ts';
import { answerRows } from './answer-rows.ts';

export const extractAnswers: Answers<typeof extractRoutes> = {
  getRows: answerRows,
  listAddresses: ({ ask }) => ask(listAddresses, undefined),
  addAddress: ({ perform, input }) => perform(addAddress, input),
  withdrawAddress: async ({ perform, params }) => {
    await perform(withdrawAddress, params.address);
    return DONE;
  },
};
