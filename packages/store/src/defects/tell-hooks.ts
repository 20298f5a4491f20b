import { and, asc, eq, gt, ne } from 'drizzle-orm';
import type { Store } from '../database.ts';
import { history } from '../schema/history.ts';
import { people } from '../schema/people.ts';
import { programmes } from '../schema/programmes.ts';
import { defects } from '../schema/defects.ts';

const AT_ONCE = 20;

/**
 * Tells each programme's web hook what happened to its defects since it was last told, in order, at least once. A hook that does not answer
 * is tried again; nothing is passed over. Answers how many lines were told.
 */
export async function tellHooks(store: Store, post: (address: string, body: string) => Promise<void>): Promise<number> {
  const hooked = await store.db.select({ id: programmes.id }).from(programmes).where(ne(programmes.defectHook, ''));
  let told = 0;
  for (const { id } of hooked) told += await tellOne(store, id, post);
  return told;
}

function tellOne(
  store: Store,
  id: (typeof programmes.$inferSelect)['id'],
  post: (address: string, body: string) => Promise<void>,
): Promise<number> {
  return store.db.transaction(async (db) => {
    const [programme] = await db.select().from(programmes).where(eq(programmes.id, id)).for('update', { skipLocked: true });
    if (!programme || programme.defectHook === '') return 0;
    const lines = await db
      .select({ id: history.id, action: history.action, details: history.details, at: history.at, by: people.name, defect: defects })
      .from(history)
      .innerJoin(defects, eq(defects.id, history.subjectId))
      .leftJoin(people, eq(people.id, history.personId))
      .where(and(eq(history.programmeId, id), eq(history.subject, 'defect'), gt(history.id, programme.hookedUpTo)))
      .orderBy(asc(history.id))
      .limit(AT_ONCE);
    let told = 0;
    for (const { id: line, action, details, at, by, defect } of lines) {
      const { code, title, status, kind, severity, priority } = defect;
      const body = JSON.stringify({
        event: line,
        programme: programme.key,
        action,
        by,
        at: at.toISOString(),
        details,
        defect: { code, title, status, kind, severity, priority },
      });
      const problem = await post(programme.defectHook, body).then(
        () => '',
        (error: unknown) => (error instanceof Error ? error.message : String(error)),
      );
      if (problem !== '' || programme.hookProblem !== '')
        await db.update(programmes).set({ hookProblem: problem }).where(eq(programmes.id, id));
      if (problem !== '') break;
      await db.update(programmes).set({ hookedUpTo: line }).where(eq(programmes.id, id));
      told += 1;
    }
    return told;
  });
}
