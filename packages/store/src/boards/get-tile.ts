import type { TileAnswer } from '@kindred-baton/contracts/boards/board';
import type { CycleChoice } from '@kindred-baton/contracts/cycles/choice';
import { AppError } from '@kindred-baton/contracts/errors';
import { courseQuerySchema } from '@kindred-baton/contracts/progress/course';
import { defectCourseQuerySchema } from '@kindred-baton/contracts/progress/defects';
import type { HoldsView } from '@kindred-baton/contracts/progress/holds';
import { holdsQuerySchema } from '@kindred-baton/contracts/progress/holds';
import { progressQuerySchema } from '@kindred-baton/contracts/progress/progress';
import { sinceQuerySchema } from '@kindred-baton/contracts/progress/since';
import { teamProgressQuerySchema } from '@kindred-baton/contracts/progress/teams';
import { wrongStepsQuerySchema } from '@kindred-baton/contracts/progress/wrong-steps';
import { turnListQuerySchema } from '@kindred-baton/contracts/turns/turn';
import type { Cut } from '@kindred-baton/core/boards/slice';
import type { TileKind } from '@kindred-baton/core/boards/tile';
import { isNamingPeople } from '@kindred-baton/core/boards/tile';
import type { BoardId } from '@kindred-baton/core/ids';
import { getLastWorkingDay } from '@kindred-baton/core/time/since-when';
import { eq } from 'drizzle-orm';
import type { Query, ReadContext } from '../operation.ts';
import { findChosen } from '../programmes/find-cycle.ts';
import { getCourse } from '../progress/get-course.ts';
import { getDefectCourse } from '../progress/get-defect-course.ts';
import { getHolds } from '../progress/get-holds.ts';
import { getProgress } from '../progress/get-progress.ts';
import { getSince } from '../progress/get-since.ts';
import { getTeamProgress } from '../progress/get-team-progress.ts';
import { getWrongSteps } from '../progress/get-wrong-steps.ts';
import { slices } from '../schema/boards.ts';
import { listTurns } from '../turns/list-turns.ts';
import { findBoard } from './boards.ts';
import { loadSlices } from './slices.ts';

type Read = (context: ReadContext, cut: Cut) => Promise<TileAnswer>;

/** What each kind of tile answers of a cut. */
const READS: Readonly<Record<TileKind, Read>> = {
  figures: async (context, cut) => ({ shows: 'figures', answer: await getProgress.read(context, progressQuerySchema.parse(cut)) }),
  table: async (context, cut) => ({ shows: 'table', answer: await getProgress.read(context, progressQuerySchema.parse(cut)) }),
  holds: async (context, cut) => {
    const query = holdsQuerySchema.parse(cut);
    return { shows: 'holds', answer: { ...(await getHolds.read(context, query)), cycle: await nameCycles(context, query.cycle) } };
  },
  curve: async (context, cut) => ({ shows: 'curve', answer: await getCourse.read(context, courseQuerySchema.parse(cut)) }),
  odds: async (context, cut) => ({ shows: 'odds', answer: await getCourse.read(context, courseQuerySchema.parse(cut)) }),
  since: async (context, cut) => {
    const since = getLastWorkingDay(context.now.getTime(), context.actor.timeZone);
    const query = sinceQuerySchema.parse({ ...cut, since });
    const cycle = await nameCycles(context, query.cycle === undefined ? undefined : [query.cycle]);
    return cycle === ''
      ? toNothing('There is no cycle yet.')
      : { shows: 'since', answer: { ...(await getSince.read(context, query)), cycle } };
  },
  teams: async (context, cut) => ({ shows: 'teams', answer: await getTeamProgress.read(context, teamProgressQuerySchema.parse(cut)) }),
  steps: async (context, cut) => ({ shows: 'steps', answer: await getWrongSteps.read(context, wrongStepsQuerySchema.parse(cut)) }),
  defects: async (context, cut) => ({ shows: 'defects', answer: await getDefectCourse.read(context, defectCourseQuerySchema.parse(cut)) }),
  turns: async (context, { scope, ...cut }) => {
    const node = scope === undefined ? {} : { node: scope };
    return { shows: 'turns', answer: await listTurns.read(context, turnListQuerySchema.parse({ ...node, ...cut })) };
  },
};

interface WantedTile {
  readonly board: BoardId;
  readonly tile: string;
  /** For whoever has the board's link alone: nobody is named. */
  readonly isForObservers: boolean;
}

/** What a tile shows at the moment. A figure of another cut than the one that was kept would be taken for it: where a part of the cut is gone, it says so instead. */
export const getTile: Query<WantedTile, TileAnswer> = {
  right: 'read',
  read: async (context, { board, tile: id, isForObservers }) => {
    const { tiles } = await findBoard(context, board);
    const tile = tiles.find((own) => own.id === id);
    if (!tile) throw new AppError('not found', 'This board has no such tile any more.');
    const slice = tile.sliceId === null ? null : (await loadSlices(context, eq(slices.id, tile.sliceId)))[0];
    if (slice === undefined) return toNothing('Its slice is gone. Choose another, or take the tile away.');
    if (slice && slice.gone.length > 0)
      return toNothing(`Gone: ${slice.gone.join(', ')}. Without it, the figures would be of something else.`);
    const cut = slice?.cut ?? {};
    if (isForObservers && isNamingPeople(tile.shows, cut)) return toNothing('It names people, and is shown to those who sign in.');
    try {
      const answer = await READS[tile.shows](context, cut);
      return isForObservers && answer.shows === 'holds' ? { ...answer, answer: withoutPeople(answer.answer) } : answer;
    } catch (error) {
      if (error instanceof AppError && error.code === 'not found') return toNothing(error.message);
      throw error;
    }
  },
};

async function nameCycles(context: ReadContext, choice: CycleChoice | undefined): Promise<string> {
  return (await findChosen(context, choice)).map(({ code }) => code).join(',');
}

const toNothing = (why: string): TileAnswer => ({ shows: 'nothing', why });

/** Who is waited for, and what somebody wrote, stays in the house. */
const withoutPeople = <View extends HoldsView>(view: View): View => ({
  ...view,
  holds: view.holds.map((hold) => ({ ...hold, title: hold.kind === 'idle' ? 'Waiting for a tester' : hold.title, detail: '' })),
});
