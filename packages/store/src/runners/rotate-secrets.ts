import { and, eq, isNotNull } from 'drizzle-orm';
import type { Database, Store } from '../database.ts';
import { nameSecretPlace } from '../personas/personas.ts';
import { doors } from '../schema/doors.ts';
import { personaStarts } from '../schema/personas.ts';
import type { KeyRing } from '../secrets.ts';
import { readKeyName, seal, unseal } from '../secrets.ts';

/** Secrets by the key that seals them, over all programmes. */
export async function countByKey(db: Pick<Database, 'select'>): Promise<ReadonlyMap<string, number>> {
  const rows = [
    ...(await db.select({ secret: personaStarts.secret }).from(personaStarts).where(isNotNull(personaStarts.secret))),
    ...(await db.select({ secret: doors.secret }).from(doors).where(isNotNull(doors.secret))),
  ];
  const counts = new Map<string, number>();
  for (const { secret } of rows) counts.set(readKeyName(secret!), (counts.get(readKeyName(secret!)) ?? 0) + 1);
  return counts;
}

/**
 * Seals every secret of every programme anew with the ring's current key, all or none of them; answers how many. Throws a sentence when one does not open:
 * then nothing is changed.
 */
export function resealSecrets({ db }: Store, ring: KeyRing): Promise<number> {
  const again = (secret: Buffer, place: string) => seal(ring, unseal(ring, secret, place), place);
  return db.transaction(async (tx) => {
    const starts = await tx.select().from(personaStarts).where(isNotNull(personaStarts.secret)).for('update');
    for (const start of starts)
      await tx
        .update(personaStarts)
        .set({ secret: again(start.secret!, nameSecretPlace(start)) })
        .where(
          and(
            eq(personaStarts.personaId, start.personaId),
            eq(personaStarts.applicationId, start.applicationId),
            eq(personaStarts.environmentId, start.environmentId),
          ),
        );
    const opened = await tx.select().from(doors).where(isNotNull(doors.secret)).for('update');
    for (const door of opened)
      await tx
        .update(doors)
        .set({ secret: again(door.secret!, door.id) })
        .where(eq(doors.id, door.id));
    return starts.length + opened.length;
  });
}
