import type { StepTriesView } from '@kindred-baton/contracts/progress/wrong-steps';
import type { PersonId, TurnId } from '@kindred-baton/core/ids';
import type { Hold } from '@kindred-baton/core/progress/find-holds';
import { pushTo } from '@kindred-baton/core/push-to';
import { findAsked } from '@kindred-baton/core/turns/decide/nudge';
import { asc, count, eq, sql } from 'drizzle-orm';
import type { ReadContext } from '../operation.ts';
import type { DefectRow } from '../schema/defects.ts';
import { defectTurns, defects } from '../schema/defects.ts';
import { people } from '../schema/people.ts';
import { nudges, turns } from '../schema/turns.ts';

type Asked = StepTriesView['asked'][number];

/** Who is to go on where it holds, each once, by the first of their turns; as a nudge finds it (core: decide/nudge). Three queries. */
export async function tellAsked(context: ReadContext, holds: readonly Hold[]): Promise<Asked[]> {
  const ids = holds.flatMap(({ at }) => at.slice(0, 1)) as TurnId[];
  if (ids.length === 0) return [];
  const [heldOf, times] = await Promise.all([loadHeld(context, ids), countNudges(context, ids)]);
  const askedAt = holds.flatMap(({ at }) => {
    const held = heldOf.get(at[0] as TurnId);
    return held ? [{ turn: held.id, turns: at.length, ...findAsked(held, held.defects) }] : [];
  });
  const nameOf = await loadNames(context, [...new Set(askedAt.flatMap(({ id }) => id ?? []))]);
  const found = new Map<string, Asked>();
  for (const { turn, id, defect, turns: own } of askedAt) {
    const key = `${id} ${defect}`;
    const person = id === null ? null : (nameOf.get(id) ?? null);
    const before = found.get(key) ?? { turn, person, defect, turns: 0, nudges: times.get(turn) ?? 0 };
    found.set(key, { ...before, turns: before.turns + own });
  }
  return [...found.values()];
}

interface Held {
  readonly id: TurnId;
  readonly assigneeId: PersonId | null;
  readonly defects: Pick<DefectRow, 'code' | 'status' | 'assigneeId'>[];
}

const isAnyOf = (ids: readonly string[]) => sql`any(${sql.param(ids)}::uuid[])`;

async function loadHeld({ db }: ReadContext, ids: readonly TurnId[]): Promise<ReadonlyMap<TurnId, Held>> {
  const rows = await db
    .select({
      ...{ id: turns.id, assigneeId: turns.assigneeId },
      defect: { code: defects.code, status: defects.status, assigneeId: defects.assigneeId },
    })
    .from(turns)
    .leftJoin(defectTurns, eq(defectTurns.turnId, turns.id))
    .leftJoin(defects, eq(defects.id, defectTurns.defectId))
    .where(sql`${turns.id} = ${isAnyOf(ids)}`)
    .orderBy(asc(defects.number));
  const defectsAt = new Map<TurnId, Held['defects']>();
  for (const { id, defect } of rows) if (defect) pushTo(defectsAt, id, defect);
  return new Map(rows.map(({ id, assigneeId }) => [id, { id, assigneeId, defects: defectsAt.get(id) ?? [] }]));
}

async function countNudges({ db }: ReadContext, ids: readonly TurnId[]): Promise<ReadonlyMap<TurnId, number>> {
  const rows = await db
    .select({ id: nudges.turnId, times: count() })
    .from(nudges)
    .where(sql`${nudges.turnId} = ${isAnyOf(ids)}`)
    .groupBy(nudges.turnId);
  return new Map(rows.map(({ id, times }) => [id, times]));
}

async function loadNames({ db }: ReadContext, ids: readonly PersonId[]): Promise<ReadonlyMap<PersonId, string>> {
  const rows = await db
    .select({ id: people.id, name: people.name })
    .from(people)
    .where(sql`${people.id} = ${isAnyOf(ids)}`);
  return new Map(rows.map(({ id, name }) => [id, name]));
}
