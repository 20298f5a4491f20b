import type { BoardList, BoardView, KeepBoard } from '@kindred-baton/contracts/boards/board';
import { AppError } from '@kindred-baton/contracts/errors';
import type { BoardId } from '@kindred-baton/core/ids';
import { hasRight } from '@kindred-baton/core/programmes/roles';
import { and, asc, count, eq, inArray, or, sql } from 'drizzle-orm';
import type { Actor } from '../actor.ts';
import { createId } from '../ids.ts';
import type { Operation, Query, ReadContext } from '../operation.ts';
import { boardLinks, boards, slices } from '../schema/boards.ts';
import { people } from '../schema/people.ts';
import { loadSlices } from './slices.ts';

/** One's own, so that a loop does not fill the house. */
const MOST = 50;

/** Those that somebody may open: her own and those for all. */
const isOpenTo = ({ programmeId, personId, shownBoardId }: Actor) =>
  and(
    eq(boards.programmeId, programmeId),
    shownBoardId === undefined ? or(eq(boards.isShared, true), eq(boards.personId, personId)) : eq(boards.id, shownBoardId),
  );

/** Its owner; of what is for all, whoever leads too. */
const mayChange = (actor: Actor) =>
  and(
    eq(boards.programmeId, actor.programmeId),
    or(eq(boards.personId, actor.personId), hasRight(actor.roles, 'run cycles') ? eq(boards.isShared, true) : undefined),
  );

export const listBoards: Query<undefined, BoardList> = {
  right: 'read',
  read: async ({ db, actor }) => {
    const rows = await db
      .select({ board: boards, owner: people.name, link: boardLinks.boardId })
      .from(boards)
      .innerJoin(people, eq(people.id, boards.personId))
      .leftJoin(boardLinks, eq(boardLinks.boardId, boards.id))
      .where(isOpenTo(actor))
      .orderBy(asc(boards.name), asc(boards.id));
    return rows.map(({ board: { id, name, isShared, personId, tiles }, owner, link }) => ({
      ...{ id, name, isShared, isMine: personId === actor.personId, owner, tiles: tiles.length, hasLink: link !== null },
    }));
  },
};

export const getBoard: Query<BoardId, BoardView> = {
  right: 'read',
  read: async (context, id) => {
    const { db, actor } = context;
    const board = await findBoard(context, id);
    // By its link, it tells nobody’s name.
    const isShown = actor.shownBoardId !== undefined;
    const wanted = board.tiles.flatMap(({ sliceId }) => sliceId ?? []);
    const own = wanted.length === 0 ? [] : await loadSlices(context, sql`slices.id = any(${sql.param(wanted)}::uuid[])`);
    const byId = new Map(own.map((slice) => [slice.id, slice]));
    const [owner] = await db.select({ name: people.name }).from(people).where(eq(people.id, board.personId));
    const [link] = await db.select().from(boardLinks).where(eq(boardLinks.boardId, id));
    const { name, isShared, version, personId, tiles } = board;
    return {
      ...{ id, name, isShared, isMine: personId === actor.personId, owner: isShown ? '' : (owner?.name ?? ''), version },
      tiles: tiles.map((tile) => {
        const slice = tile.sliceId === null ? null : (byId.get(tile.sliceId) ?? null);
        return { ...tile, slice, isGone: tile.sliceId !== null && slice === null };
      }),
      link: link && !isShown ? { madeAt: link.madeAt.toISOString(), usedAt: link.usedAt?.toISOString() ?? null } : null,
    };
  },
};

/** A board that the actor may open. */
export async function findBoard({ db, actor }: ReadContext, id: BoardId): Promise<typeof boards.$inferSelect> {
  const [board] = await db
    .select()
    .from(boards)
    .where(and(isOpenTo(actor), eq(boards.id, id)));
  if (!board) throw new AppError('not found', 'There is no such board, or it is somebody’s own.');
  return board;
}

export const makeBoard: Operation<KeepBoard, { id: BoardId }> = {
  right: 'read',
  run: async (context, kept) => {
    const { db, actor, now } = context;
    const [own] = await db
      .select({ boards: count() })
      .from(boards)
      .where(and(eq(boards.programmeId, actor.programmeId), eq(boards.personId, actor.personId)));
    if ((own?.boards ?? 0) >= MOST) throw new AppError('conflict', `You have ${MOST} boards already. Drop one that nobody needs.`);
    await requireSlices(context, kept);
    const id = createId<'board'>();
    await db.insert(boards).values({ id, programmeId: actor.programmeId, personId: actor.personId, ...kept, keptAt: now });
    return { id };
  },
};

/** What somebody else kept since it was seen is not overwritten. */
export const changeBoard: Operation<KeepBoard & { readonly id: BoardId; readonly version: number }, { version: number }> = {
  right: 'read',
  run: async (context, { id, version, ...kept }) => {
    const { db, actor, now } = context;
    const [board] = await db
      .select({ version: boards.version, tiles: boards.tiles })
      .from(boards)
      .where(and(mayChange(actor), eq(boards.id, id)))
      .for('update');
    if (!board) throw new AppError('not found', 'You have no such board. Make one of your own.');
    if (board.version !== version)
      throw new AppError('conflict', 'Somebody else changed this board meanwhile. It is shown as it is now; make your change again.');
    const before = new Set(board.tiles.map(({ sliceId }) => sliceId));
    await requireSlices(context, { tiles: kept.tiles.filter(({ sliceId }) => !before.has(sliceId)) });
    await db
      .update(boards)
      .set({ ...kept, version: version + 1, keptAt: now })
      .where(eq(boards.id, id));
    return { version: version + 1 };
  },
};

export const dropBoard: Operation<BoardId, void> = {
  right: 'read',
  run: async ({ db, actor }, id) => {
    const gone = await db
      .delete(boards)
      .where(and(mayChange(actor), eq(boards.id, id)))
      .returning({ id: boards.id });
    if (gone.length === 0) throw new AppError('not found', 'You have no such board.');
  },
};

/** A tile shows slices that its maker can see. */
async function requireSlices(context: ReadContext, { tiles }: Pick<KeepBoard, 'tiles'>): Promise<void> {
  const wanted = [...new Set(tiles.flatMap(({ sliceId }) => sliceId ?? []))];
  if (wanted.length === 0) return;
  const { db, actor } = context;
  const found = await db
    .select({ id: slices.id })
    .from(slices)
    .where(
      and(
        eq(slices.programmeId, actor.programmeId),
        inArray(slices.id, wanted),
        or(eq(slices.isShared, true), eq(slices.personId, actor.personId)),
      ),
    );
  if (found.length < wanted.length) throw new AppError('invalid', 'A slice that a tile should show is gone. Choose another.');
}
