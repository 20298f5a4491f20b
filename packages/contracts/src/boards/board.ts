import { MOST_TILES, TILE_KINDS, TILE_WIDTHS } from '@kindred-baton/core/boards/tile';
import { z } from 'zod';
import { idSchema, momentSchema, nameSchema } from '../common.ts';
import { courseSchema } from '../progress/course.ts';
import { defectCourseSchema } from '../progress/defects.ts';
import { holdsSchema } from '../progress/holds.ts';
import { progressSchema } from '../progress/progress.ts';
import { sinceSchema } from '../progress/since.ts';
import { teamProgressSchema } from '../progress/teams.ts';
import { wrongStepsSchema } from '../progress/wrong-steps.ts';
import { turnListSchema } from '../turns/turn.ts';
import { sliceSchema } from './slice.ts';

/** A tile as it is kept: what it shows of which slice, and how wide. */
const tileSchema = z.object({
  id: z.uuid(),
  shows: z.enum(TILE_KINDS),
  /** null: of the current cycle, all of it. */
  sliceId: idSchema<'slice'>().nullable(),
  width: z.enum(TILE_WIDTHS),
});
export type Tile = z.infer<typeof tileSchema>;

export const keepBoardSchema = z.object({
  name: nameSchema,
  isShared: z.boolean(),
  tiles: z.array(tileSchema).max(MOST_TILES, `A board has at most ${MOST_TILES} tiles: make another for the rest.`),
});
export type KeepBoard = z.infer<typeof keepBoardSchema>;
/** The version that was seen: what somebody else kept since is not overwritten. */
export const changeBoardSchema = keepBoardSchema.extend({ version: z.int() });

const boardSchema = z.object({
  id: idSchema<'board'>(),
  ...{ name: z.string(), isShared: z.boolean(), isMine: z.boolean(), owner: z.string() },
});
export const boardListSchema = z.array(boardSchema.extend({ tiles: z.int(), hasLink: z.boolean() }));
export type BoardList = z.infer<typeof boardListSchema>;

export const boardViewSchema = boardSchema.extend({
  version: z.int(),
  /** Each with its slice as it is today; null: of the current cycle, or its slice is gone. */
  tiles: z.array(tileSchema.extend({ slice: sliceSchema.nullable(), isGone: z.boolean() })),
  /** When a link for observers was made; null: there is none. */
  link: z.object({ madeAt: momentSchema, usedAt: momentSchema.nullable() }).nullable(),
});
export type BoardView = z.infer<typeof boardViewSchema>;
export type TileView = BoardView['tiles'][number];

const of = <Kind extends string, Answer extends z.ZodType>(kind: Kind, answer: Answer) => z.object({ shows: z.literal(kind), answer });

/** The codes of the cycles that it is of, with commas between them. */
const ofCycles = { cycle: z.string() };

/** What a tile shows at the moment: what its view answers; or why it shows nothing. */
export const tileAnswerSchema = z.discriminatedUnion('shows', [
  of('figures', progressSchema),
  of('table', progressSchema),
  of('holds', holdsSchema.extend(ofCycles)),
  of('curve', courseSchema),
  of('odds', courseSchema),
  of('since', sinceSchema.extend(ofCycles)),
  of('teams', teamProgressSchema),
  of('steps', wrongStepsSchema),
  of('defects', defectCourseSchema),
  of('turns', turnListSchema),
  z.object({ shows: z.literal('nothing'), why: z.string() }),
]);
export type TileAnswer = z.infer<typeof tileAnswerSchema>;

/** The token is told once. */
export const madeLinkSchema = z.object({ token: z.string() });
