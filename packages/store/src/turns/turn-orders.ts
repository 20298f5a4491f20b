import type { GroupColumn, SortedColumn, TurnSort } from '@kindred-baton/core/turns/turn-columns';
import { readTurnSort } from '@kindred-baton/core/turns/turn-columns';
import type { SQL } from 'drizzle-orm';
import { asc, sql } from 'drizzle-orm';
import { runs } from '../schema/cycles.ts';
import { turns } from '../schema/turns.ts';

const teamName = sql`(select name from teams where teams.id = ${turns.teamId})`;
const personName = sql`(select name from people where people.id = ${turns.assigneeId})`;
const cycleCode = sql`(select code from cycles where cycles.id = ${turns.cycleId})`;
const ofScenario = (column: SQL) => sql`(select ${column} from scenarios where scenarios.id = ${runs.scenarioId})`;
const startsOn = sql`(select starts_on from cycles where cycles.id = ${turns.cycleId})`;

/** By what each column is put in order; turns and their runs are joined. */
const ORDERS: Readonly<Record<SortedColumn, SQL>> = {
  status: sql`${turns.status}`,
  turn: sql`${turns.title}`,
  scenario: ofScenario(sql`name`),
  team: teamName,
  person: personName,
  due: sql`${turns.dueOn}`,
  minutes: sql`${turns.minutes}`,
  changed: sql`coalesce(${turns.doneAt}, ${turns.readyAt})`,
  cycle: startsOn,
};

/** What turns of a group have in common, as text; '' where there is nothing. */
export const GROUP_KEYS: Readonly<Record<GroupColumn, SQL<string>>> = {
  status: sql`${turns.status}::text`,
  scenario: sql`coalesce(${ofScenario(sql`code`)}, '')`,
  team: sql`coalesce(${teamName}, '')`,
  person: sql`coalesce(${personName}, '')`,
  due: sql`coalesce(${turns.dueOn}::text, '')`,
  cycle: sql`coalesce(${cycleCode}, '')`,
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
