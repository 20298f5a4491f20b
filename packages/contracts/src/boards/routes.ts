import { z } from 'zod';
import { doneSchema, idSchema } from '../common.ts';
import { defineRoutes } from '../route.ts';
import { boardListSchema, boardViewSchema, changeBoardSchema, keepBoardSchema, madeLinkSchema, tileAnswerSchema } from './board.ts';
import { changeSliceSchema, keepSliceSchema, sliceSchema } from './slice.ts';

const sliceId = { slice: idSchema<'slice'>() };
const boardId = { board: idSchema<'board'>() };
/** Slices and boards are everybody's to make; whose they are decides who changes them. */
const own = { right: 'read', topics: ['boards'] } as const;

export const boardRoutes = defineRoutes({
  listSlices: {
    ...{ method: 'GET', path: '/slices', output: z.array(sliceSchema), right: 'read' },
    topics: ['boards', 'map', 'tests', 'scenarios', 'cycles', 'programme'],
  },
  keepSlice: { method: 'POST', path: '/slices', input: keepSliceSchema, output: z.object({ id: sliceId.slice }), ...own },
  changeSlice: { method: 'PUT', path: '/slices/:slice', params: sliceId, input: changeSliceSchema, output: doneSchema, ...own },
  dropSlice: { method: 'DELETE', path: '/slices/:slice', params: sliceId, output: doneSchema, ...own },
  listBoards: { method: 'GET', path: '/boards', output: boardListSchema, ...own },
  makeBoard: { method: 'POST', path: '/boards', input: keepBoardSchema, output: z.object({ id: boardId.board }), ...own },
  getBoard: {
    ...{ method: 'GET', path: '/boards/:board', params: boardId, output: boardViewSchema, right: 'read', for: 'observers too' },
    topics: ['boards', 'map', 'tests', 'scenarios', 'cycles', 'programme'],
  },
  changeBoard: {
    method: 'PUT',
    path: '/boards/:board',
    params: boardId,
    input: changeBoardSchema,
    output: z.object({ version: z.int() }),
    ...own,
  },
  dropBoard: { method: 'DELETE', path: '/boards/:board', params: boardId, output: doneSchema, ...own },
  getTile: {
    ...{ method: 'GET', path: '/boards/:board/tiles/:tile', params: { ...boardId, tile: z.uuid() }, output: tileAnswerSchema },
    ...{ right: 'read', for: 'observers too', topics: ['boards', 'map', 'cycles', 'turns', 'defects', 'tests', 'programme'] },
  },
  makeBoardLink: {
    ...{ method: 'POST', path: '/boards/:board/link', params: boardId, output: madeLinkSchema, right: 'run cycles', topics: ['boards'] },
  },
  withdrawBoardLink: {
    ...{ method: 'DELETE', path: '/boards/:board/link', params: boardId, output: doneSchema, right: 'run cycles', topics: ['boards'] },
  },
});
