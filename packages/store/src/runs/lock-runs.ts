import type { DefectId, RunId, TurnId } from '@kindred-baton/core/ids';
import { inArray, sql } from 'drizzle-orm';
import type { Context } from '../operation.ts';
import { cycles, runs } from '../schema/cycles.ts';
import { defectTurns, defects } from '../schema/defects.ts';
import { turns } from '../schema/turns.ts';

/** What an event is about; all that hangs on it is found from here. */
export interface RunScope {
  readonly runs?: readonly RunId[];
  readonly turns?: readonly TurnId[];
  /** With all runs in which they hold a turn. */
  readonly defects?: readonly DefectId[];
}

export interface LockedScope {
  readonly runs: readonly RunId[];
  readonly defects: readonly DefectId[];
}

const MOST_TRIES = 5;

/**
 * Locks all that an event may change, in one order everywhere: cycles (shared: their state and rules hold still), runs, defects, each by id. What
 * hangs together can grow while one waits for a lock; then everything is let go and locked anew, so that two never wait for each other.
 */
export async function lockScope(context: Context, scope: RunScope): Promise<LockedScope> {
  let wanted = await findScope(context, scope);
  if (!scope.turns && !scope.defects) {
    await lock(context, wanted);
    return wanted;
  }
  for (let tries = 0; tries < MOST_TRIES; tries += 1) {
    const isRetaken = tries < MOST_TRIES - 1;
    if (isRetaken) await context.db.execute(sql`savepoint locks`);
    await lock(context, wanted);
    const found = await findScope(context, scope);
    if (covers(wanted, found)) {
      if (isRetaken) await context.db.execute(sql`release savepoint locks`);
      return found;
    }
    if (isRetaken) await context.db.execute(sql`rollback to savepoint locks`);
    wanted = { runs: unite(wanted.runs, found.runs), defects: unite(wanted.defects, found.defects) };
  }
  return wanted;
}

const unite = <Item>(a: readonly Item[], b: readonly Item[]): Item[] => [...new Set([...a, ...b])];
const covers = (held: LockedScope, found: LockedScope) =>
  found.runs.every((id) => held.runs.includes(id)) && found.defects.every((id) => held.defects.includes(id));

/** The runs in question, and the defects at the turns that are named, with every run that these hold. */
async function findScope({ db }: Context, scope: RunScope): Promise<LockedScope> {
  const turnIds = scope.turns ?? [];
  const [named, linked] = await Promise.all([
    turnIds.length > 0
      ? db
          .select({ id: turns.runId })
          .from(turns)
          .where(inArray(turns.id, [...turnIds]))
      : [],
    turnIds.length > 0
      ? db
          .select({ id: defectTurns.defectId })
          .from(defectTurns)
          .where(inArray(defectTurns.turnId, [...turnIds]))
      : [],
  ]);
  const defectIds = unite(
    scope.defects ?? [],
    linked.map(({ id }): DefectId => id),
  );
  const held =
    defectIds.length > 0
      ? await db
          .selectDistinct({ id: turns.runId })
          .from(defectTurns)
          .innerJoin(turns, sql`${turns.id} = ${defectTurns.turnId}`)
          .where(inArray(defectTurns.defectId, defectIds))
      : [];
  return {
    runs: unite(
      scope.runs ?? [],
      [...named, ...held].map(({ id }): RunId => id),
    ),
    defects: defectIds,
  };
}

async function lock({ db }: Context, { runs: runIds, defects: defectIds }: LockedScope): Promise<void> {
  if (runIds.length > 0) {
    const own = db
      .select({ id: runs.cycleId })
      .from(runs)
      .where(inArray(runs.id, [...runIds]));
    await db.select({ id: cycles.id }).from(cycles).where(inArray(cycles.id, own)).orderBy(cycles.id).for('share');
    await db
      .select({ id: runs.id })
      .from(runs)
      .where(inArray(runs.id, [...runIds]))
      .orderBy(runs.id)
      .for('update');
  }
  if (defectIds.length > 0)
    await db
      .select({ id: defects.id })
      .from(defects)
      .where(inArray(defects.id, [...defectIds]))
      .orderBy(defects.id)
      .for('update');
}
