import { AppError } from '@kindred-baton/contracts/errors';
import type { ChangeSlice, KeepSlice, SliceInfo } from '@kindred-baton/contracts/boards/slice';
import { readCut } from '@kindred-baton/core/boards/slice';
import type { SliceId } from '@kindred-baton/core/ids';
import { hasRight } from '@kindred-baton/core/programmes/roles';
import type { SQL } from 'drizzle-orm';
import { and, asc, count, eq, or } from 'drizzle-orm';
import type { Actor } from '../actor.ts';
import { createId } from '../ids.ts';
import type { Operation, Query, ReadContext } from '../operation.ts';
import { slices } from '../schema/boards.ts';
import { people } from '../schema/people.ts';
import { findAnchors, followCuts } from './anchors.ts';

/** One's own, so that a loop does not fill the house. */
const MOST = 200;

/** One's own slices and those for all, by name. */
export const listSlices: Query<undefined, SliceInfo[]> = {
  right: 'read',
  read: (context) => loadSlices(context, or(eq(slices.isShared, true), eq(slices.personId, context.actor.personId))),
};

/** One of them; what is somebody else's own is not found. */
export const getSlice: Query<SliceId, SliceInfo> = {
  right: 'read',
  read: async (context, id) => {
    const isOpen = or(eq(slices.isShared, true), eq(slices.personId, context.actor.personId));
    const [slice] = await loadSlices(context, and(isOpen, eq(slices.id, id)));
    if (!slice) throw new AppError('not found', 'This slice is gone, or is somebody’s own.');
    return slice;
  },
};

/** Slices as they are today. */
export async function loadSlices(context: ReadContext, which: SQL | undefined): Promise<SliceInfo[]> {
  const { db, actor } = context;
  const rows = await db
    .select({ slice: slices, owner: people.name })
    .from(slices)
    .innerJoin(people, eq(people.id, slices.personId))
    .where(and(eq(slices.programmeId, actor.programmeId), which))
    .orderBy(asc(slices.name), asc(slices.id));
  const followed = await followCuts(
    context,
    rows.map(({ slice }) => slice),
  );
  return rows.map(({ slice: { id, name, view, isShared, personId }, owner }, at) => ({
    ...{ id, name, view, isShared, isMine: personId === actor.personId, owner: actor.shownBoardId === undefined ? owner : '' },
    ...(followed[at] ?? { cut: {}, gone: [] }),
  }));
}

/** Keeps a cut of a view under a name. */
export const keepSlice: Operation<KeepSlice, { id: SliceId }> = {
  right: 'read',
  run: async (context, kept) => {
    const { db, actor, now } = context;
    const [own] = await db.select({ slices: count() }).from(slices).where(isOwn(actor));
    if ((own?.slices ?? 0) >= MOST) throw new AppError('conflict', `You have ${MOST} slices already. Drop one that nobody needs.`);
    const id = kept.id ?? createId<'slice'>();
    const row = { id, programmeId: actor.programmeId, personId: actor.personId, ...(await toRow(context, kept)), keptAt: now };
    const added = await db.insert(slices).values(row).onConflictDoNothing().returning({ id: slices.id });
    if (added.length === 0) throw new AppError('conflict', 'This slice is there already.');
    return { id };
  },
};

export const changeSlice: Operation<ChangeSlice & { readonly id: SliceId }, void> = {
  right: 'read',
  run: async (context, { id, name, isShared, shows }) => {
    const own = shows === undefined ? { name, isShared } : await toRow(context, { name, isShared, ...shows });
    const changed = await context.db
      .update(slices)
      .set({ ...own, keptAt: context.now })
      .where(and(mayChange(context.actor), eq(slices.id, id)))
      .returning({ id: slices.id });
    if (changed.length === 0) throw new AppError('not found', 'You have no such slice. Keep it as one of your own.');
  },
};

/** Boards that show it say that it is gone. */
export const dropSlice: Operation<SliceId, void> = {
  right: 'read',
  run: async ({ db, actor }, id) => {
    const gone = await db
      .delete(slices)
      .where(and(mayChange(actor), eq(slices.id, id)))
      .returning({ id: slices.id });
    if (gone.length === 0) throw new AppError('not found', 'You have no such slice.');
  },
};

const isOwn = (actor: Actor) => and(eq(slices.programmeId, actor.programmeId), eq(slices.personId, actor.personId));

/** Its owner; what is for all, whoever leads too. */
const mayChange = (actor: Actor) =>
  hasRight(actor.roles, 'run cycles')
    ? and(eq(slices.programmeId, actor.programmeId), or(eq(slices.personId, actor.personId), eq(slices.isShared, true)))
    : isOwn(actor);

async function toRow(context: ReadContext, { name, view, cut: given, isShared }: KeepSlice) {
  const cut = readCut(Object.entries(given));
  return { name, view, cut, isShared, anchors: await findAnchors(context, cut) };
}
