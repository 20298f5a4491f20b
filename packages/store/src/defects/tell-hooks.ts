import { and, asc, eq, exists, gt, isNull, lte, ne, or, sql } from 'drizzle-orm';
import type { Store } from '../database.ts';
import { history } from '../schema/history.ts';
import { people } from '../schema/people.ts';
import { programmes } from '../schema/programmes.ts';
import { defects } from '../schema/defects.ts';

type ProgrammeRow = typeof programmes.$inferSelect;
type Post = (address: string, body: string) => Promise<void>;

const AT_ONCE = 20;
/** A server that dies while it tells a hook is followed by another after this. */
const CLAIM_MS = 60_000;

/**
 * Tells each programme's web hook what happened to its defects since it was last told, in order, at least once. A hook that does not answer
 * is tried again; nothing is passed over. Nothing is locked while a hook is told, and none waits for another. Answers how many lines were told.
 */
export async function tellHooks(store: Store, post: Post): Promise<number> {
  const waiting = await store.db
    .select({ id: programmes.id })
    .from(programmes)
    .where(
      and(
        ne(programmes.defectHook, ''),
        exists(
          store.db
            .select({ one: sql`1` })
            .from(history)
            .where(isUntold),
        ),
      ),
    );
  const told = await Promise.all(waiting.map(({ id }) => tellOne(store, id, post)));
  return told.reduce((sum, lines) => sum + lines, 0);
}

/** Lines that no transaction under way can still be put before: what is numbered earlier and comes later would be passed over. */
const isSettled = sql`(${history}.xmin::text::bigint < (pg_snapshot_xmin(pg_current_snapshot())::text::bigint & 4294967295) or ${history.at} < now() - interval '1 hour')`;
const isUntold = and(
  eq(history.programmeId, programmes.id),
  eq(history.subject, 'defect'),
  gt(history.id, programmes.hookedUpTo),
  isSettled,
);

async function tellOne(store: Store, id: ProgrammeRow['id'], post: Post): Promise<number> {
  const programme = await claim(store, id);
  if (!programme) return 0;
  let told = 0;
  let problem = '';
  try {
    for (const { id: line, body } of await listLines(store, programme)) {
      problem = await post(programme.defectHook, body).then(
        () => '',
        (error: unknown) => (error instanceof Error ? error.message : String(error)),
      );
      if (problem !== '') break;
      await store.db
        .update(programmes)
        .set({ hookedUpTo: line, hookProblem: '', hookClaimedUntil: toClaim(store) })
        .where(eq(programmes.id, id));
      told += 1;
    }
  } finally {
    await store.db.update(programmes).set({ hookProblem: problem, hookClaimedUntil: null }).where(eq(programmes.id, id));
  }
  return told;
}

const toClaim = (store: Store) => new Date(store.now().getTime() + CLAIM_MS);

async function claim(store: Store, id: ProgrammeRow['id']): Promise<ProgrammeRow | undefined> {
  const isFree = or(isNull(programmes.hookClaimedUntil), lte(programmes.hookClaimedUntil, store.now()));
  const [programme] = await store.db
    .update(programmes)
    .set({ hookClaimedUntil: toClaim(store) })
    .where(and(eq(programmes.id, id), ne(programmes.defectHook, ''), isFree))
    .returning();
  return programme;
}

async function listLines({ db }: Store, programme: ProgrammeRow): Promise<{ id: number; body: string }[]> {
  const lines = await db
    .select({ id: history.id, action: history.action, details: history.details, at: history.at, by: people.name, defect: defects })
    .from(history)
    .innerJoin(programmes, eq(programmes.id, history.programmeId))
    .innerJoin(defects, eq(defects.id, history.subjectId))
    .leftJoin(people, eq(people.id, history.personId))
    .where(and(eq(programmes.id, programme.id), isUntold))
    .orderBy(asc(history.id))
    .limit(AT_ONCE);
  return lines.map(({ id, action, details, at, by, defect: { code, title, status, kind, severity, priority } }) => ({
    id,
    body: JSON.stringify({
      ...{ event: id, programme: programme.key, action, by, at: at.toISOString(), details },
      defect: { code, title, status, kind, severity, priority },
    }),
  }));
}
