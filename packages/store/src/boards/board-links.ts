import { AppError } from '@kindred-baton/contracts/errors';
import type { BoardId } from '@kindred-baton/core/ids';
import { and, eq, isNull, lt, or, sql } from 'drizzle-orm';
import type { Actor } from '../actor.ts';
import { getActor } from '../actor.ts';
import type { Store } from '../database.ts';
import type { Operation } from '../operation.ts';
import { boardLinks } from '../schema/boards.ts';
import { programmes } from '../schema/programmes.ts';
import { createToken, hashToken } from '../tokens.ts';
import { findBoard } from './boards.ts';

/** What the token of a board's link begins with. */
const PREFIX = 'kbb_';
/** That it was used is noted so often at most. */
const NOTED_MS = 60_000;

/** A link that shows a board without signing in; one that there was is withdrawn by it. Its token is answered once. */
export const makeBoardLink: Operation<BoardId, { token: string }> = {
  right: 'run cycles',
  run: async (context, boardId) => {
    const { db, actor, now } = context;
    const { name } = await findBoard(context, boardId);
    const token = createToken(PREFIX);
    const link = { programmeId: actor.programmeId, personId: actor.personId, tokenHash: hashToken(token), madeAt: now, usedAt: null };
    await db
      .insert(boardLinks)
      .values({ boardId, ...link })
      .onConflictDoUpdate({ target: boardLinks.boardId, set: link });
    await context.record({ subject: 'programme', subjectId: boardId, action: 'board link made', details: { name } });
    return { token };
  },
};

/** It shows nothing from now on. */
export const withdrawBoardLink: Operation<BoardId, void> = {
  right: 'run cycles',
  run: async (context, boardId) => {
    const { name } = await findBoard(context, boardId);
    const gone = await context.db
      .delete(boardLinks)
      .where(and(eq(boardLinks.programmeId, context.actor.programmeId), eq(boardLinks.boardId, boardId)))
      .returning({ id: boardLinks.boardId });
    if (gone.length === 0) throw new AppError('not found', 'This board has no link.');
    await context.record({ subject: 'programme', subjectId: boardId, action: 'board link withdrawn', details: { name } });
  },
};

/** Who a link's token lets look: its maker's eyes, for one board alone; undefined: it is not known, or was withdrawn. That it was used is noted. */
export async function findObserver(store: Store, token: string): Promise<(Actor & { readonly shownBoardId: BoardId }) | undefined> {
  const now = store.now();
  const [found] = await store.db
    .select({ boardId: boardLinks.boardId, personId: boardLinks.personId, key: programmes.key })
    .from(boardLinks)
    .innerJoin(programmes, eq(programmes.id, boardLinks.programmeId))
    .where(eq(boardLinks.tokenHash, hashToken(token)));
  if (!found) return undefined;
  const actor = await getActor(store, found.personId, found.key).catch((error: unknown) => {
    // Whoever made it left the programme: the link is nobody's.
    if (error instanceof AppError && error.code === 'not found') return undefined;
    throw error;
  });
  if (!actor) return undefined;
  const longAgo = sql`${now.toISOString()}::timestamptz - ${NOTED_MS} * interval '1 millisecond'`;
  await store.db
    .update(boardLinks)
    .set({ usedAt: now })
    .where(and(eq(boardLinks.boardId, found.boardId), or(isNull(boardLinks.usedAt), lt(boardLinks.usedAt, longAgo))));
  return { ...actor, roles: ['observer'], shownBoardId: found.boardId };
}
