import type { GroupColumn, SortedColumn, TurnSort } from '@kindred-baton/core/turns/turn-columns';
import { readTurnSort } from '@kindred-baton/core/turns/turn-columns';
import type { SQL } from 'drizzle-orm';
import { asc, sql } from 'drizzle-orm';
import { cycles, runs } from '../schema/cycles.ts';
import { people } from '../schema/people.ts';
import { teams } from '../schema/programmes.ts';
import { scenarios } from '../schema/scenarios.ts';
import { turns } from '../schema/turns.ts';

/** By what each column is put in order, of turns with what they belong to (with-belongings.ts). */
const ORDERS: Readonly<Record<SortedColumn, SQL>> = {
  status: sql`${turns.status}`,
  turn: sql`${turns.title}`,
  scenario: sql`${scenarios.name}`,
  team: sql`${teams.name}`,
  person: sql`${people.name}`,
  due: sql`${turns.dueOn}`,
  minutes: sql`${turns.minutes}`,
  changed: sql`coalesce(${turns.doneAt}, ${turns.readyAt})`,
  cycle: sql`${cycles.startsOn}`,
};

/** What turns of a group have in common, as text; '' where there is nothing. */
export const GROUP_KEYS: Readonly<Record<GroupColumn, SQL<string>>> = {
  status: sql`${turns.status}::text`,
  scenario: sql`coalesce(${scenarios.code}, '')`,
  team: sql`coalesce(${teams.name}, '')`,
  person: sql`coalesce(${people.name}, '')`,
  due: sql`coalesce(${turns.dueOn}::text, '')`,
  cycle: sql`coalesce(${cycles.code}, '')`,
};

/** The order of a list: by its groups first, then by a column, then as turns follow each other. What has no value stands last. */
export function orderTurns(group: GroupColumn | undefined, sort: TurnSort | undefined): SQL[] {
  const own = sort === undefined ? null : readTurnSort(sort);
  return [
    ...(group === undefined ? [] : [sql`${ORDERS[group]} nulls last`, GROUP_KEYS[group]]),
    ...(own ? [own.isDown ? sql`${ORDERS[own.column]} desc nulls last` : sql`${ORDERS[own.column]} nulls last`] : []),
    sql`${turns.dueOn} nulls last`,
    ...[asc(runs.number), asc(turns.index), asc(turns.id)],
  ];
}
