import type { boardRoutes } from '@kindred-baton/contracts/boards/routes';
import { DONE } from '@kindred-baton/contracts/common';
import { makeBoardLink, withdrawBoardLink } from '@kindred-baton/store/boards/board-links';
import { changeBoard, dropBoard, getBoard, listBoards, makeBoard } from '@kindred-baton/store/boards/boards';
import { getTile } from '@kindred-baton/store/boards/get-tile';
import { changeSlice, dropSlice, keepSlice, listSlices } from '@kindred-baton/store/boards/slices';
import type { Answers } from '../../call.ts';

export const boardAnswers: Answers<typeof boardRoutes> = {
  listSlices: ({ ask }) => ask(listSlices, undefined),
  keepSlice: ({ perform, input }) => perform(keepSlice, input),
  changeSlice: async ({ perform, params, input }) => {
    await perform(changeSlice, { ...input, id: params.slice });
    return DONE;
  },
  dropSlice: async ({ perform, params }) => {
    await perform(dropSlice, params.slice);
    return DONE;
  },
  listBoards: ({ ask }) => ask(listBoards, undefined),
  makeBoard: ({ perform, input }) => perform(makeBoard, input),
  getBoard: ({ ask, params }) => ask(getBoard, params.board),
  changeBoard: ({ perform, params, input }) => perform(changeBoard, { ...input, id: params.board }),
  dropBoard: async ({ perform, params }) => {
    await perform(dropBoard, params.board);
    return DONE;
  },
  getTile: ({ ask, actor, params }) => ask(getTile, { ...params, isForObservers: actor.shownBoardId !== undefined }),
  makeBoardLink: ({ perform, params }) => perform(makeBoardLink, params.board),
  withdrawBoardLink: async ({ perform, params }) => {
    await perform(withdrawBoardLink, params.board);
    return DONE;
  },
};
