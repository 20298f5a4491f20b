import { sql } from 'drizzle-orm';
import type { SQL } from 'drizzle-orm';
import type { Database } from '../database.ts';

export interface Contradiction {
  /** The rule that does not hold. */
  readonly rule: string;
  /** The turn, run or defect at which it does not. */
  readonly id: string;
}

/** What is shared by the rules: turns of cycles that are being run, with their newest finished attempt and whether one is open. */
const LIVE = sql`
  with recursive live as (
    select turns.*, runs.outcome as run_outcome, coalesce(runs.left_to in ('dropped', 'taken out'), false) as is_left_out, latest.outcome as latest,
      latest.number as latest_number, latest.kept, coalesce(latest.is_abandoned, false) as is_abandoned,
      exists (select 1 from attempts where attempts.turn_id = turns.id and attempts.finished_at is null) as is_open
    from turns
    join runs on runs.id = turns.run_id
    join cycles on cycles.id = runs.cycle_id and cycles.state in ('open', 'closing')
    left join lateral (
      select * from attempts where attempts.turn_id = turns.id and attempts.finished_at is not null order by attempts.number desc limit 1
    ) latest on true
  ),
  passable as (
    select live.*, coalesce(latest in ('passed', 'skipped'), is_left_out and not is_open) as is_over from live
  ),
  direct as (
    select taker.run_id, taker.index from passable taker
    where exists (
      select 1 from passable giver where giver.run_id = taker.run_id and giver.index = any (taker.after) and giver.latest in ('failed', 'blocked')
    ) or exists (
      select 1 from jsonb_array_elements(taker.needs) need
      where need ->> 'isOptional' is null and (need -> 'source' ->> 'kind' = 'none' or (need -> 'source' ->> 'kind' = 'turn' and exists (
        select 1 from passable giver
        where giver.run_id = taker.run_id and giver.index = (need -> 'source' ->> 'index')::int and giver.is_over and not exists (
          select 1 from jsonb_each_text(coalesce(giver.kept, '{}')) value
          where value.value <> '' and lower(regexp_replace(trim(value.key), '\\s+', ' ', 'g'))
            = lower(regexp_replace(trim(need -> 'source' ->> 'name'), '\\s+', ' ', 'g'))
        )
      )))
    )
  ),
  caused as (
    select run_id, index from direct
    union
    select taker.run_id, taker.index from caused
    join passable giver on giver.run_id = caused.run_id and giver.index = caused.index and not giver.is_over
    join live taker on taker.run_id = caused.run_id and caused.index = any (taker.after)
  ),
  links as (
    select defects.id as defect_id, defects.status, defect_turns.turn_id, defect_turns.retest_after
    from defect_turns join defects on defects.id = defect_turns.defect_id
  )`;

/**
 * What must hold of every turn, run and defect whatever happened, stated a second time and in another language than core states it: each question
 * answers what contradicts it. A rule is one entry.
 */
const RULES: Readonly<Record<string, SQL>> = {
  'a turn’s outcome is that of its newest finished attempt': sql`
    select id from live where outcome::text <> coalesce(latest::text, case when is_left_out and not is_open then 'skipped' else 'not run' end)`,
  'a turn is under way while an attempt at it is open': sql`select id from live where (state = 'under way') <> is_open`,
  'a retest is due after a fix, once a block was lifted, or after its tester left, and while nothing holds': sql`
    select id from live where is_retest_due <> (
      coalesce(latest in ('failed', 'blocked'), false)
      and not exists (select 1 from links where links.turn_id = live.id and links.status in ('new', 'accepted'))
      and (is_abandoned or (latest = 'blocked' and lifted_after >= latest_number) or exists (
        select 1 from links where links.turn_id = live.id and links.status = 'fixed' and not coalesce(latest_number > retest_after, false)
      ))
    )`,
  'what was tried stands as done, or as ready where a retest is due and its run is still in the cycle': sql`
    select id from live where latest is not null and not is_open
      and (status::text <> latest::text or state::text <> case when is_retest_due and not is_left_out then 'ready' else 'done' end)`,
  'what nobody tried is held by a cause, ready when all before it is through, and waits otherwise': sql`
    select id from passable taker where latest is null and not is_open and not is_left_out and status::text <> case
      when exists (select 1 from caused where caused.run_id = taker.run_id and caused.index = taker.index) then 'held'
      when exists (
        select 1 from passable giver where giver.run_id = taker.run_id and giver.index = any (taker.after) and not giver.is_over
      ) then 'waiting' else 'ready' end`,
  'a turn counts as done from a moment on, and only then': sql`select id from turns where (outcome = 'not run') <> (done_at is null)`,
  'a run’s outcome follows from its turns': sql`
    select run_id as id from live group by run_id, run_outcome having run_outcome::text <> case
      when bool_or(outcome = 'failed') then 'failed'
      when bool_or(outcome = 'blocked') then 'blocked'
      when bool_and(outcome in ('passed', 'skipped')) and bool_or(outcome = 'passed') then 'passed'
      when bool_and(outcome in ('passed', 'skipped')) then 'skipped'
      when bool_or(is_open or outcome <> 'not run') then 'under way'
      else 'not run' end`,
  'a fixed defect waits for a retest, and says after which attempt': sql`
    select defect_id as id from links left join live on live.id = links.turn_id where links.status = 'fixed'
    group by defect_id having bool_or(retest_after is null) or bool_or(latest = 'failed' and latest_number > retest_after)
      or bool_and(coalesce(latest in ('passed', 'skipped') and latest_number > retest_after, false))`,
  'a turn belongs to the cycle and the programme of its run': sql`
    select turns.id from turns join runs on runs.id = turns.run_id join cycles on cycles.id = runs.cycle_id
    where turns.cycle_id <> runs.cycle_id or turns.programme_id <> cycles.programme_id`,
};

/** Everything in the database that contradicts these rules; empty: all is in order. Reads all programmes; one query a rule. */
export async function checkRuns(db: Pick<Database, 'execute'>): Promise<Contradiction[]> {
  const found: Contradiction[] = [];
  for (const [rule, question] of Object.entries(RULES)) {
    const { rows } = await db.execute<{ id: string }>(sql`${LIVE} ${question}`);
    found.push(...rows.map(({ id }) => ({ rule, id })));
  }
  return found;
}
