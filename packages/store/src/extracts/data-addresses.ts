import { AppError } from '@kindred-baton/contracts/errors';
import type { AddAddress, DataAddressView } from '@kindred-baton/contracts/extracts/extract';
import type { DataAddressId } from '@kindred-baton/core/ids';
import { and, desc, eq, lt, or, isNull, sql } from 'drizzle-orm';
import type { Actor } from '../actor.ts';
import { getActor } from '../actor.ts';
import type { Store } from '../database.ts';
import { createId } from '../ids.ts';
import type { Operation, Query } from '../operation.ts';
import { dataAddresses } from '../schema/data-addresses.ts';
import { programmes } from '../schema/programmes.ts';
import { createToken, hashToken } from '../tokens.ts';

const PREFIX = 'kbd_';
const DAY_MS = 86_400_000;
/** One's own, so that a loop does not fill the house. */
const MOST = 20;
/** That it was used is noted so often at most. */
const NOTED_MS = 60_000;

/** One's own addresses, the newest first. */
export const listAddresses: Query<undefined, DataAddressView[]> = {
  right: 'read',
  read: async ({ db, actor }) => {
    const rows = await db.select().from(dataAddresses).where(isOwn(actor)).orderBy(desc(dataAddresses.addedAt));
    return rows.map(({ id, name, addedAt, expiresAt, usedAt }) => ({
      ...{ id, name, addedAt: addedAt.toISOString() },
      ...{ expiresAt: expiresAt?.toISOString() ?? null, usedAt: usedAt?.toISOString() ?? null },
    }));
  },
};

const isOwn = (actor: Actor) => and(eq(dataAddresses.programmeId, actor.programmeId), eq(dataAddresses.personId, actor.personId));

/** An address that reads what its owner may read, and nothing else. Its token is answered once. */
export const addAddress: Operation<AddAddress, { id: DataAddressId; token: string }> = {
  right: 'read',
  run: async (context, { name, daysValid }) => {
    const { db, actor, now } = context;
    const own = await db.select({ id: dataAddresses.id }).from(dataAddresses).where(isOwn(actor));
    if (own.length >= MOST) throw new AppError('conflict', `You have ${MOST} addresses already. Withdraw one that nobody needs.`);
    const id = createId<'dataAddress'>();
    const token = createToken(PREFIX);
    const expiresAt = daysValid === null ? null : new Date(now.getTime() + daysValid * DAY_MS);
    await db.insert(dataAddresses).values({
      ...{ id, programmeId: actor.programmeId, personId: actor.personId, name, tokenHash: hashToken(token), addedAt: now, expiresAt },
    });
    await context.record({ subject: 'programme', subjectId: id, action: 'data address added', details: { name } });
    return { id, token };
  },
};

/** It opens nothing from now on, in the middle of a download too. */
export const withdrawAddress: Operation<DataAddressId, { done: true }> = {
  right: 'read',
  run: async (context, id) => {
    const [gone] = await context.db
      .delete(dataAddresses)
      .where(and(isOwn(context.actor), eq(dataAddresses.id, id)))
      .returning({ name: dataAddresses.name });
    if (!gone) throw new AppError('not found', 'You have no such address.');
    await context.record({ subject: 'programme', subjectId: id, action: 'data address withdrawn', details: { name: gone.name } });
    return { done: true };
  },
};

/** In whose name a token reads; undefined: it is not known, was withdrawn, or its time is over. That it was used is noted. */
export async function findReader(store: Store, token: string): Promise<Actor | undefined> {
  const now = store.now();
  const [found] = await store.db
    .select({ id: dataAddresses.id, personId: dataAddresses.personId, expiresAt: dataAddresses.expiresAt, key: programmes.key })
    .from(dataAddresses)
    .innerJoin(programmes, eq(programmes.id, dataAddresses.programmeId))
    .where(eq(dataAddresses.tokenHash, hashToken(token)));
  if (!found || (found.expiresAt !== null && found.expiresAt <= now)) return undefined;
  const actor = await getActor(store, found.personId, found.key).catch((error: unknown) => {
    // Its owner left the programme: the address is nobody's.
    if (error instanceof AppError && error.code === 'not found') return undefined;
    throw error;
  });
  if (!actor) return undefined;
  await store.db
    .update(dataAddresses)
    .set({ usedAt: now })
    .where(
      and(
        eq(dataAddresses.id, found.id),
        or(
          isNull(dataAddresses.usedAt),
          lt(dataAddresses.usedAt, sql`${now.toISOString()}::timestamptz - ${NOTED_MS} * interval '1 millisecond'`),
        ),
      ),
    );
  return actor;
}
