import { LIVE_STATES } from '@kindred-baton/core/cycles/cycle';
import { and, count, desc, eq, gt, inArray, isNull, ne, sql } from 'drizzle-orm';
import type { TurnsHome } from '@kindred-baton/contracts/turns/turn';
import type { SQL } from 'drizzle-orm';
import type { Operation, Query, ReadContext } from '../operation.ts';
import { addDays, getWeekday, toDay } from '@kindred-baton/core/time/calendar';
import { cycles, runs } from '../schema/cycles.ts';
import { defects } from '../schema/defects.ts';
import { history } from '../schema/history.ts';
import { members, teamMembers } from '../schema/programmes.ts';
import { pools } from '../schema/runners.ts';
import { nudges, turns } from '../schema/turns.ts';
import { loadTurnCards } from './load-turn-cards.ts';

const ON_ITS_WAY_SHOWN = 12;
const RECENT_SHOWN = 8;
const WITH_YOU_SHOWN = 50;

/** The tester's home: what is with her, what is on its way to her and who has it, what she passed on. */
export const getTurnsHome: Query<void, TurnsHome> = {
  right: 'read',
  read: async (context) => {
    const { db, actor } = context;
    const live = db
      .select({ id: cycles.id })
      .from(cycles)
      .where(and(eq(cycles.programmeId, actor.programmeId), inArray(cycles.state, LIVE_STATES)));
    const mine = and(eq(turns.assigneeId, actor.personId), inArray(turns.cycleId, live));
    const inScope = inArray(turns.runId, db.select({ id: runs.id }).from(runs).where(isNull(runs.leftTo)));
    const onItsWay = and(mine, eq(turns.state, 'waiting'));
    const nearest = sql`case when exists (select 1 from turns as before where before.run_id = ${turns.runId}
      and before.index = any(${turns.after}) and before.state in ('ready', 'under way')) then 0 else 1 end`;
    const ofLane = db.select({ id: teamMembers.teamId }).from(teamMembers).where(eq(teamMembers.personId, actor.personId));
    const ofRunners = and(
      inArray(turns.assigneeId, db.select({ id: pools.id }).from(pools).where(eq(pools.programmeId, actor.programmeId))),
      ...[inArray(turns.teamId, ofLane), inArray(turns.cycleId, live)],
    );
    const isStopped = and(eq(turns.state, 'done'), inArray(turns.outcome, ['failed', 'blocked']), inScope);
    const newest = [desc(turns.doneAt), turns.id];
    const [withYou, stopped, leftByRunners, coming, waiting, done, recent, since, own] = await Promise.all([
      loadTurnCards(context, {
        where: and(mine, inArray(turns.state, ['ready', 'under way'])),
        limit: WITH_YOU_SHOWN,
        order: [desc(eq(turns.state, 'under way')), desc(turns.isRetestDue), sql`${turns.dueOn} nulls last`, turns.readyAt, turns.id],
      }),
      loadTurnCards(context, { where: and(mine, isStopped), limit: WITH_YOU_SHOWN, order: newest }),
      loadTurnCards(context, { where: and(ofRunners, isStopped), limit: WITH_YOU_SHOWN, order: newest }),
      loadTurnCards(context, {
        where: onItsWay,
        limit: ON_ITS_WAY_SHOWN,
        order: [nearest, sql`${turns.dueOn} nulls last`, turns.index, turns.id],
      }),
      db.select({ turns: count() }).from(turns).where(onItsWay),
      db
        .select({ outcome: turns.outcome, turns: count() })
        .from(turns)
        .where(and(mine, ne(turns.outcome, 'not run')))
        .groupBy(turns.outcome),
      loadTurnCards(context, { where: and(mine, eq(turns.state, 'done')), limit: RECENT_SHOWN, order: newest }),
      findSince(context),
      measureOwn(context, mine),
    ]);
    const countOf = (outcome: string) => done.find((row) => row.outcome === outcome)?.turns ?? 0;
    return {
      ...{ withYou, stopped, leftByRunners },
      onItsWay: coming,
      moreOnItsWay: Math.max(0, (waiting[0]?.turns ?? 0) - coming.length),
      passedOn: { passed: countOf('passed'), failed: countOf('failed'), blocked: countOf('blocked'), skipped: countOf('skipped'), recent },
      ...{ since, mine: own },
    };
  },
};

/** What happened to her turns and defects since she last looked. */
async function findSince({ db, actor }: ReadContext): Promise<TurnsHome['since']> {
  const [member] = await db
    .select({ seenAt: members.seenAt })
    .from(members)
    .where(and(eq(members.programmeId, actor.programmeId), eq(members.personId, actor.personId)));
  const seen = member?.seenAt;
  if (!seen) return null;
  const mine = and(eq(turns.programmeId, actor.programmeId), eq(turns.assigneeId, actor.personId));
  const [came, nudged, taken, fixed] = await Promise.all([
    db
      .select({ isRetest: turns.isRetestDue, turns: count() })
      .from(turns)
      .where(and(mine, eq(turns.state, 'ready'), gt(turns.readyAt, seen)))
      .groupBy(turns.isRetestDue),
    db
      .select({ times: count() })
      .from(nudges)
      .where(and(eq(nudges.toId, actor.personId), gt(nudges.at, seen))),
    db
      .select({ times: count() })
      .from(history)
      .where(
        and(
          ...[
            eq(history.programmeId, actor.programmeId),
            eq(history.subject, 'turn'),
            eq(history.action, 'passed on'),
            gt(history.at, seen),
          ],
          ...[ne(history.personId, actor.personId), sql`${history.details} ->> 'from' = ${actor.personId}`],
        ),
      ),
    db
      .select({ times: count() })
      .from(defects)
      .where(
        and(
          eq(defects.programmeId, actor.programmeId),
          eq(defects.foundBy, actor.personId),
          inArray(defects.status, ['fixed', 'closed']),
          gt(defects.changedAt, seen),
        ),
      ),
  ]);
  const countOf = (isRetest: boolean) => came.find((row) => row.isRetest === isRetest)?.turns ?? 0;
  return {
    ...{ at: seen.toISOString(), came: countOf(false), retests: countOf(true) },
    ...{ nudges: nudged[0]?.times ?? 0, takenAway: taken[0]?.times ?? 0, defectsFixed: fixed[0]?.times ?? 0 },
  };
}

async function measureOwn({ db, actor, now }: ReadContext, mine: SQL | undefined): Promise<TurnsHome['mine']> {
  const today = toDay(now.getTime(), actor.timeZone);
  const monday = addDays(today, 1 - getWeekday(today));
  const isDone = sql`${turns.outcome} <> 'not run'`;
  const isLeft = sql`${turns.outcome} not in ('passed', 'skipped')`;
  const [[own], [found]] = await Promise.all([
    db
      .select({
        turns: count(),
        done: sql<number>`count(*) filter (where ${isDone})`.mapWith(Number),
        doneThisWeek: sql<number>`count(*) filter (where ${turns.doneAt} >= ${monday}::date)`.mapWith(Number),
        minutesDone: sql<number>`coalesce(sum(${turns.minutes}) filter (where not (${isLeft})), 0)`.mapWith(Number),
        minutesLeft: sql<number>`coalesce(sum(${turns.minutes}) filter (where ${isLeft}), 0)`.mapWith(Number),
      })
      .from(turns)
      .where(mine),
    db
      .select({ found: count() })
      .from(defects)
      .where(and(eq(defects.programmeId, actor.programmeId), eq(defects.foundBy, actor.personId))),
  ]);
  return { turns: 0, done: 0, doneThisWeek: 0, minutesDone: 0, minutesLeft: 0, ...own, found: found?.found ?? 0 };
}

/** Notes that she has looked at her turns now. */
export const markSeen: Operation<void, { done: true }> = {
  right: 'read',
  run: async ({ db, actor, now }) => {
    await db
      .update(members)
      .set({ seenAt: now })
      .where(and(eq(members.programmeId, actor.programmeId), eq(members.personId, actor.personId)));
    return { done: true };
  },
};
