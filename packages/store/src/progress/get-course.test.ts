import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { courseQuerySchema } from '@kindred-baton/contracts/progress/course';
import type { PackedCourse } from '@kindred-baton/contracts/progress/course';
import type { RunId } from '@kindred-baton/core/ids';
import type { CourseFacts } from '@kindred-baton/core/progress/course';
import { unpackFacts } from '@kindred-baton/core/progress/course';
import { drawCurves } from '@kindred-baton/core/progress/draw-curve';
import { forecastCourse } from '@kindred-baton/core/progress/forecast';
import { addDays } from '@kindred-baton/core/time/calendar';
import { ofCycle } from '../../../../tests/support/of-cycle.ts';
import type { TestStore } from '../../../../tests/support/test-store.ts';
import { createTestStore } from '../../../../tests/support/test-store.ts';
import type { Actor } from '../actor.ts';
import { changeScope } from '../cycles/change-scope.ts';
import { moveCycle } from '../cycles/move-cycle.ts';
import { staffCycle } from '../cycles/staff-cycle.ts';
import { listTurns } from '../turns/list-turns.ts';
import { getCourse } from './get-course.ts';

const OPEN = 'ACC-2';

describe('the course of a cycle', () => {
  let db: TestStore;
  let lead: Actor;
  beforeAll(async () => {
    db = await createTestStore('demo');
    lead = await db.actorOf('Lea Marsh');
  });
  afterAll(() => db.drop());

  const look = (query: Record<string, string> = {}) => db.ask(lead, getCourse, courseQuerySchema.parse({ cycle: OPEN, ...query }));
  const lookAt = async (query: Record<string, string> = {}): Promise<PackedCourse> => {
    const { course } = await look(query);
    if (!course) throw new Error('The cycle has no course.');
    return course;
  };
  const sumTurns = (rows: PackedCourse['baseline']) => rows.reduce((sum, { turns }) => sum + turns, 0);

  it('ends today with what the lists count, for each team and for a branch', async () => {
    for (const scope of [undefined, 'NS']) {
      const course = await lookAt(scope === undefined ? {} : { scope });
      const facts = unpackFacts(course);
      const { groups, all } = drawCurves(facts, 'turns');
      const count = async (more: object) => (await db.ask(lead, listTurns, { ...ofCycle(OPEN), node: scope, ...more })).rows.size;
      expect(all.through.at(-1)).toBe(await count({ status: ['passed', 'skipped'] }));
      expect(all.wrong.at(-1)).toBe(await count({ status: ['failed', 'blocked'] }));
      for (const [at, { key }] of course.groups.entries()) {
        expect([key, groups[at]!.through.at(-1)]).toEqual([key, await count({ team: key, status: ['passed', 'skipped'] })]);
        expect([key, facts.turns.filter(({ group, isCounted }) => isCounted && group === at).length]).toEqual([
          key,
          await count({ team: key }),
        ]);
      }
    }
  });

  it('is on each evening what SQL written by hand says', async () => {
    const course = await lookAt();
    const { all } = drawCurves(unpackFacts(course), 'minutes');
    for (let day = 0; day < course.today; day += 1) {
      const { rows } = await db.store.db.execute<{ through: number; wrong: number }>(sql`
        select coalesce(sum(minutes) filter (where outcome in ('passed', 'skipped')), 0)::int as through,
          coalesce(sum(minutes) filter (where outcome in ('failed', 'blocked')), 0)::int as wrong
        from (select distinct on (turns.id) turns.minutes, attempts.outcome from attempts join turns on turns.id = turn_id
          join cycles on cycles.id = turns.cycle_id where cycles.code = ${OPEN}
          and finished_at < (${addDays(course.firstDay, day + 1)}::date::timestamp at time zone 'Europe/London')
          order by turns.id, attempts.number desc) as newest`);
      expect({ day, through: all.through[day], wrong: all.wrong[day] }).toEqual({ day, ...rows[0] });
    }
    expect(all.through.at(-1)).toBeGreaterThan(0);
  });

  it('takes as many queries for a cycle as for a branch of it, but for the map', async () => {
    const count = async (query: Record<string, string>) => {
      db.queries.length = 0;
      await look(query);
      return db.queries.filter((text) => !/^(begin|commit|set|select set_config)/i.test(text)).length;
    };
    const [open, closed] = [await count({}), await count({ cycle: 'INT-1' })];
    expect(closed).toBe(open);
    expect(open).toBeLessThanOrEqual(12);
  });

  it('of a closed cycle ends when it was closed; of a planned one there is none', async () => {
    const course = await lookAt({ cycle: 'INT-1' });
    expect(course.isOver).toBe(true);
    expect(addDays(course.firstDay, course.today)).toBe((await look({ cycle: 'INT-1' })).cycle!.endsOn);
    expect((await look({ cycle: 'REG-4.2' })).course).toBeNull();
  });

  it('gives the time of a person in several teams away once', async () => {
    const { lanes, today } = await lookAt();
    const { rows } = await db.store.db.execute<{ minutes: number }>(sql`
      select sum(minutes)::float8 as minutes from (select distinct on (person_id) coalesce(team_members.hours_per_day, teams.hours_per_day) * 60 as minutes
        from team_members join teams on teams.id = team_id join members using (person_id) where members.programme_id = teams.programme_id
        and members.left_at is null and 'tester' = any(members.roles::text[]) order by person_id, teams.position) as own`);
    const onFullDay = Math.max(
      ...lanes[0]!.minutesByDay.map((_, day) =>
        day > today ? lanes.reduce((sum, lane) => sum + (lane.people > 0 ? lane.minutesByDay[day]! : 0), 0) : 0,
      ),
    );
    expect(onFullDay).toBeGreaterThan(0);
    expect(Math.abs(onFullDay - rows[0]!.minutes) / rows[0]!.minutes).toBeLessThan(0.01);
  });

  it('keeps what was planned, whatever is planned later; what comes and goes are changes on it', async () => {
    const before = await lookAt();
    expect(sumTurns(before.baseline)).toBe(unpackFacts(before).turns.length);
    const { rows } = await db.store.db.execute<{ id: RunId }>(sql`
      select runs.id from runs join cycles on cycles.id = cycle_id where cycles.code = ${OPEN} and not exists (
        select from turns join attempts on turn_id = turns.id where run_id = runs.id and finished_at is null) limit 1`);
    await db.perform(lead, changeScope, { code: OPEN, change: { add: [], drop: [rows[0]!.id], why: 'Its data are not there.' } });
    await db.perform(lead, staffCycle, { code: OPEN, staff: { kind: 'keep plan', changes: [], why: '' } });
    const after = await lookAt();
    expect(after.baseline).toEqual(before.baseline);
    const gone = unpackFacts(before).turns.length - unpackFacts(after).turns.length;
    expect(gone).toBeGreaterThan(0);
    expect(after.scopeChanges).toMatchObject([{ day: after.today, turns: -gone, why: 'Its data are not there.' }]);
    expect(after.scopeChanges[0]!.minutes).toBeLessThan(0);
    await expect(db.store.db.execute(sql`update baselines set turns = 0`)).rejects.toMatchObject({ cause: { code: 'KB003' } });
  });

  it('begins with the days that were kept with a plan before it was opened', async () => {
    await db.perform(lead, staffCycle, { code: 'REG-4.2', staff: { kind: 'keep plan', changes: [], why: '' } });
    const listDue = async () => {
      const { rows } = await db.store.db.execute<{ day: string; turns: number }>(sql`
        select due_on::text as day, count(*)::int as turns from turns join cycles on cycles.id = cycle_id
        where cycles.code = 'REG-4.2' group by 1 order by 1`);
      return rows;
    };
    const planned = await listDue();
    await db.perform(lead, moveCycle, { code: 'REG-4.2', from: 'planning', to: 'open' });
    expect(await listDue()).toEqual(planned);
    const { rows } = await db.store.db.execute(sql`
      select day::text, sum(turns)::int as turns from baselines join cycles on cycles.id = cycle_id where cycles.code = 'REG-4.2' group by 1 order by 1`);
    expect(rows).toEqual(planned);
  });

  /** What was known of a cycle when a day began. */
  function toldOn(day: number, { tries, turns, ...facts }: CourseFacts): CourseFacts {
    const known = tries.filter((one) => one.day < day);
    const last = new Map(known.map((one) => [one.turn, one.isThrough]));
    const stand = (at: number) => ({
      isThrough: last.get(at) === true,
      isWrong: last.get(at) === false,
      isStopped: last.get(at) === false,
    });
    return {
      ...facts,
      today: day,
      todayShare: 1,
      tries: known,
      turns: turns.map((turn, at) => ({ ...turn, ...stand(at), leftOutOn: null })),
    };
  }

  it('of the closed round was foretold on its 5th, 8th, 10th, 12th and 15th day: 85 % of the paths ended when it did or later', async () => {
    const course = await lookAt({ cycle: 'INT-1' });
    const facts = unpackFacts(course);
    const end = Math.max(...facts.tries.map(({ day }) => day));
    const told = [4, 7, 9, 11, 14].map(
      (day) => forecastCourse(toldOn(day, facts), { unit: 'turns', plannedDay: course.plannedDay }).all.ends,
    );
    expect(end).toBe(course.today);
    for (const ends of told) expect(ends!.late).toBeGreaterThanOrEqual(end);
    // The first of them gives even odds for the very day.
    expect(told[0]!.median).toBe(end);
  });
});
