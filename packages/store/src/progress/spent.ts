import { SHORTEST_PAUSE_MINUTES } from '@kindred-baton/core/progress/effort';
import type { SQL } from 'drizzle-orm';
import { and, eq, isNotNull, sql } from 'drizzle-orm';
import { attempts, stepResults, turns } from '../schema/turns.ts';

/**
 * What turns took that people tried to the end, over all their attempts, as core says it of one (core/progress/effort): times between words, pauses taken out.
 * What a runner did is no person's work, and what an attempt took over was that one's before. `which`: turns. To be selected from: *spent*, a row for each turn
 * with its cycle, team, person, node, test, planned and spent minutes, and when the last of its attempts ended.
 */
export const withSpent = (which: SQL | undefined): SQL => sql`
  with ended as (
    select ${attempts.id} as attempt, ${turns.id} as turn, ${turns.minutes} as minutes,
      ${attempts.startedAt} as started_at, ${attempts.finishedAt} as finished_at, ${attempts.runnerId} is null as is_by_hand
    from ${attempts} join ${turns} on ${eq(turns.id, attempts.turnId)} where ${and(which, isNotNull(attempts.finishedAt))}
  ), words as (
    select ended.*, started_at as at, false as is_work from ended
    union all select ended.*, ${stepResults.recordedAt}, ${stepResults.runnerId} is null
      from ended join ${stepResults} on ${stepResults.attemptId} = ended.attempt
      where ${stepResults.outcome} is not null and ${stepResults.recordedAt} between started_at and finished_at
    union all select ended.*, finished_at, is_by_hand from ended
  ), gaps as (
    select turn, minutes, is_work, finished_at, at - lag(at) over (partition by attempt order by at, is_work) as gap from words
  ), of_turns as (
    select turn, minutes, max(finished_at) as ended_at, coalesce(sum(extract(epoch from gap)) filter (
      where is_work and gap <= make_interval(mins => greatest(${SHORTEST_PAUSE_MINUTES}::int, minutes))), 0) / 60 as spent
    from gaps group by turn, minutes having bool_or(is_work)
  ), spent as (
    select ${turns.cycleId} as cycle, ${turns.teamId} as team, ${turns.assigneeId} as person, ${turns.nodeId} as node, ${turns.testId} as test, of_turns.* from of_turns
    join ${turns} on ${turns.id} = of_turns.turn
  )`;
