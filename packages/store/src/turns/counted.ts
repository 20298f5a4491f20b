import type { Counted } from '@kindred-baton/core/progress/counted';
import { isWhole, RUN_STATUSES, WORST_FIRST } from '@kindred-baton/core/progress/counted';
import type { TurnStatus } from '@kindred-baton/core/outcomes';
import type { SQL } from 'drizzle-orm';
import { inArray, sql } from 'drizzle-orm';
import { runs } from '../schema/cycles.ts';
import { turns } from '../schema/turns.ts';

const toRank = (status: TurnStatus) => WORST_FIRST.indexOf(status);
const choose = (cell: SQL, ranks: Readonly<Record<string, number>>): SQL =>
  sql`case ${cell}::text ${sql.join(
    Object.entries(ranks).map(([value, rank]) => sql`when ${sql.raw(`'${value}'`)} then ${sql.raw(String(rank))}`),
    sql` `,
  )} end`;

/** A turn's place among WORST_FIRST, and that of its whole run. */
const TURN_RANK = choose(sql`${turns.status}`, Object.fromEntries(WORST_FIRST.map((status) => [status, toRank(status)])));
const RUN_RANK = choose(
  sql`${runs.outcome}`,
  Object.fromEntries(Object.entries(RUN_STATUSES).map(([outcome, status]) => [outcome, toRank(status)])),
);

export interface CountedParts {
  /** What several turns are one of. A turn of no test stands for itself. */
  readonly unit: SQL;
  /** Where the unit stands by this turn, as a place among WORST_FIRST; the smallest counts. */
  readonly rank: SQL;
  readonly weight: SQL;
}

/** How each of core/progress/counted.ts is counted from turns, with their runs joined. */
export const COUNTED_PARTS: Readonly<Record<Counted, CountedParts>> = {
  turns: { unit: sql`${turns.id}`, rank: TURN_RANK, weight: sql`1` },
  minutes: { unit: sql`${turns.id}`, rank: TURN_RANK, weight: sql`${turns.minutes}` },
  tests: { unit: sql`coalesce(${turns.testId}, ${turns.id})`, rank: TURN_RANK, weight: sql`1` },
  runs: { unit: sql`${turns.runId}`, rank: RUN_RANK, weight: sql`1` },
};

/** Turns that stand so, or that belong to a test or run which does, over all that fit the other conditions. */
export function isStanding(counted: Counted, statuses: readonly TurnStatus[], others: SQL | undefined): SQL | undefined {
  if (!isWhole(counted)) return inArray(turns.status, [...statuses]);
  const { unit, rank } = COUNTED_PARTS[counted];
  const ranks = sql.join(
    statuses.map((status) => sql`${toRank(status)}::int`),
    sql`, `,
  );
  return sql`${unit} in (select ${unit} from ${turns} join ${runs} on ${runs.id} = ${turns.runId} where ${others} group by 1 having min(${rank}) in (${ranks}))`;
}
