import type { TurnCard } from '@kindred-baton/contracts/turns/turn';
import { GROUP_COLUMNS, getGroupKey, readTurnSort, TURN_SORTS } from '@kindred-baton/core/turns/turn-columns';
import type { SortedColumn } from '@kindred-baton/core/turns/turn-columns';
import { TURN_STATUSES } from '@kindred-baton/core/outcomes';
import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { ofCycle } from '../../../../tests/support/of-cycle.ts';
import type { TestStore } from '../../../../tests/support/test-store.ts';
import { createTestStore } from '../../../../tests/support/test-store.ts';
import type { Actor } from '../actor.ts';
import { listTurns } from './list-turns.ts';

/** What each column is put in order by, of a turn as it is shown; null stands last. */
const VALUES: Readonly<Record<SortedColumn, (turn: TurnCard) => string | number | null>> = {
  ...{ status: ({ status }) => TURN_STATUSES.indexOf(status), turn: ({ title }) => title, scenario: ({ scenario }) => scenario.name },
  ...{ team: ({ team }) => team, person: ({ assignee }) => assignee, due: ({ dueOn }) => dueOn, minutes: ({ minutes }) => minutes },
  ...{ changed: ({ changedAt }) => changedAt, cycle: ({ cycle }) => cycle.code },
};

describe('a list of turns', () => {
  let db: TestStore;
  let lead: Actor;
  beforeAll(async () => {
    db = await createTestStore('demo');
    lead = await db.actorOf('Lea Marsh');
  });
  afterAll(() => db.drop());

  const CYCLE = ofCycle('ACC-2');
  const look = (more: object) => db.ask(lead, listTurns, { ...CYCLE, team: 'Billing', ...more });
  async function readAll(more: object): Promise<TurnCard[]> {
    const all: TurnCard[] = [];
    for (let page = 1; ; page += 1) {
      const { turns, rows } = await look({ ...more, page });
      all.push(...turns);
      if (all.length >= rows.size) return all;
    }
  }

  it('is put in order by every column, up and down, over all its pages, with every turn once', async () => {
    const ids = new Set((await readAll({})).map(({ id }) => id));
    for (const sort of TURN_SORTS) {
      const turns = await readAll({ sort });
      expect(new Set(turns.map(({ id }) => id))).toEqual(ids);
      expect(turns).toHaveLength(ids.size);
      const { column, isDown } = readTurnSort(sort);
      // The statuses by the order that the database has for them; texts as it compares them.
      const { rows } = await db.store.db.execute<{ value: string }>(
        sql`select value from unnest(${sql.param([...new Set(turns.map((turn) => String(VALUES[column](turn) ?? '')))])}::text[]) as value order by value`,
      );
      const texts = rows.map(({ value }) => value);
      const weights = turns.map((turn) => {
        const value = VALUES[column](turn);
        return value === null ? null : typeof value === 'number' ? value : texts.indexOf(value);
      });
      const held = weights.filter((weight): weight is number => weight !== null);
      if (column !== 'status') expect([sort, held]).toEqual([sort, [...held].sort((a, b) => (isDown ? b - a : a - b))]);
      // Of a status, all stand together.
      const runs = weights.filter((weight, at) => at === 0 || weights[at - 1] !== weight);
      expect([sort, new Set(runs).size]).toEqual([sort, runs.length]);
      expect(weights.lastIndexOf(null) === -1 || weights.slice(weights.indexOf(null)).every((weight) => weight === null)).toBe(true);
    }
  });

  it('stands in groups, each counted over all pages as somebody does who reads them all', async () => {
    for (const group of GROUP_COLUMNS) {
      const turns = await readAll({ group, sort: '-minutes' });
      const keys = turns.map((turn) => getGroupKey(turn, group));
      const runs = keys.filter((key, at) => at === 0 || keys[at - 1] !== key);
      expect([group, new Set(runs).size]).toEqual([group, runs.length]);
      const { groups, turns: first } = await look({ group });
      expect([group, groups.map(({ key }) => key).sort()]).toEqual([
        group,
        [...new Set(first.map((turn) => getGroupKey(turn, group)))].sort(),
      ]);
      for (const own of groups) {
        const fitting = turns.filter((turn) => getGroupKey(turn, group) === own.key);
        const minutes = fitting.reduce((sum, turn) => sum + turn.minutes, 0);
        expect([group, own]).toEqual([group, { key: own.key, turns: fitting.length, minutes }]);
      }
    }
  });
});
