import { SHORTEST_PAUSE_MINUTES } from '@kindred-baton/core/progress/effort';
import type { SQL } from 'drizzle-orm';
import { and, eq, isNotNull, sql } from 'drizzle-orm';
import { attempts, saidMinutes, stepResults, turns } from '../schema/turns.ts';

/**
 * What turns took that people tried to the end, over all their attempts, as core says it of one (core/progress/effort): times between words, pauses taken out.
 * What a runner did is no person's work, and what an attempt took over was that one's before. Where whoever made an attempt says what it took, that counts. `which`:
 * turns. To be selected from: *spent*, a row for each turn with its cycle, team, person, node, test, planned and spent minutes, and when the last of its attempts
 * ended; *of_attempts*, what the words of each attempt say.
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
    select attempt, turn, minutes, is_work, finished_at, at - lag(at) over (partition by attempt order by at, is_work) as gap from words
  ), of_attempts as (
    select attempt, turn, minutes, max(finished_at) as finished_at, bool_or(is_work) as is_work, coalesce(sum(extract(epoch from gap)) filter (
      where is_work and gap <= make_interval(mins => greatest(${SHORTEST_PAUSE_MINUTES}::int, minutes))), 0) / 60 as counted
    from gaps group by attempt, turn, minutes
  ), of_turns as (
    select turn, of_attempts.minutes, max(finished_at) as ended_at, sum(coalesce(${saidMinutes.minutes}, counted)) as spent,
      count(${saidMinutes.minutes}) > 0 as is_corrected
    from of_attempts left join ${saidMinutes} on ${saidMinutes.attemptId} = of_attempts.attempt
    group by turn, of_attempts.minutes having bool_or(is_work)
  ), spent as (
    select ${turns.cycleId} as cycle, ${turns.teamId} as team, ${turns.assigneeId} as person, ${turns.nodeId} as node, ${turns.testId} as test, of_turns.* from of_turns
    join ${turns} on ${turns.id} = of_turns.turn
  )`;
