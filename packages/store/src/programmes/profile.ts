import { LIVE_STATES } from '@kindred-baton/core/cycles/cycle';
import { randomBytes } from 'node:crypto';
import { and, asc, eq, inArray, isNull } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { Profile, SaveProfile } from '@kindred-baton/contracts/programmes/programme';
import { DEFAULT_NOTICES } from '@kindred-baton/core/programmes/notices';
import type { Store } from '../database.ts';
import type { Operation, Query } from '../operation.ts';
import { cycles, runs } from '../schema/cycles.ts';
import { people } from '../schema/people.ts';
import { members, programmes, teamMembers, teams } from '../schema/programmes.ts';
import { scenarios } from '../schema/scenarios.ts';
import { turns } from '../schema/turns.ts';
import { toDifference } from '../to-difference.ts';

/** Oneself, in this programme. */
export const getProfile: Query<void, Profile> = {
  right: 'read',
  read: async ({ db, actor }) => {
    const [[own], teamRows] = await Promise.all([
      db
        .select({ name: people.name, email: people.email, roles: members.roles, notices: members.notices, feedToken: members.feedToken })
        .from(members)
        .innerJoin(people, eq(people.id, members.personId))
        .where(and(eq(members.programmeId, actor.programmeId), eq(members.personId, actor.personId))),
      db
        .select({ name: teams.name })
        .from(teamMembers)
        .innerJoin(teams, and(eq(teams.id, teamMembers.teamId), eq(teams.programmeId, actor.programmeId)))
        .where(eq(teamMembers.personId, actor.personId))
        .orderBy(asc(teams.position)),
    ]);
    if (!own) throw new AppError('not found', 'You no longer belong to this programme.');
    const { feedToken, notices, ...person } = own;
    return {
      ...person,
      notices: { ...DEFAULT_NOTICES, ...notices },
      teams: teamRows.map(({ name }) => name),
      feed: feedToken === null ? null : `/calendar/${feedToken}.ics`,
    };
  },
};

const TOKEN_BYTES = 24;

/** Changes one's own name, notices or calendar address; a new address makes the one before worthless. */
export const saveProfile: Operation<SaveProfile, { done: true }> = {
  right: 'read',
  run: async (context, { name, notices, feed }) => {
    const { db, actor, now } = context;
    const [before] = await db.select({ name: people.name }).from(people).where(eq(people.id, actor.personId));
    if (name !== undefined) await db.update(people).set({ name, updatedAt: now }).where(eq(people.id, actor.personId));
    const own = and(eq(members.programmeId, actor.programmeId), eq(members.personId, actor.personId));
    if (notices !== undefined) await db.update(members).set({ notices }).where(own);
    if (feed !== undefined)
      await db
        .update(members)
        .set({ feedToken: feed === 'new' ? randomBytes(TOKEN_BYTES).toString('base64url') : null })
        .where(own);
    if (name !== undefined)
      await context.record({
        subject: 'programme',
        subjectId: actor.personId,
        action: 'renamed',
        details: toDifference(before ?? {}, { name }),
      });
    return { done: true };
  },
};

/** What of a person is due, for her calendar; undefined: no such address. */
export async function loadFeed(store: Store, token: string) {
  const [member] = await store.db
    .select({ personId: members.personId, programme: programmes })
    .from(members)
    .innerJoin(programmes, eq(programmes.id, members.programmeId))
    .where(and(eq(members.feedToken, token), isNull(members.leftAt)));
  if (!member) return undefined;
  const rows = await store.db
    .select({
      id: turns.id,
      title: turns.title,
      dueOn: turns.dueOn,
      state: turns.state,
      minutes: turns.minutes,
      rowName: runs.rowName,
      scenario: scenarios.name,
      cycle: cycles.name,
    })
    .from(turns)
    .innerJoin(cycles, and(eq(cycles.id, turns.cycleId), inArray(cycles.state, LIVE_STATES)))
    .innerJoin(runs, eq(runs.id, turns.runId))
    .innerJoin(scenarios, eq(scenarios.id, runs.scenarioId))
    .where(
      and(
        eq(turns.programmeId, member.programme.id),
        eq(turns.assigneeId, member.personId),
        inArray(turns.state, ['waiting', 'ready', 'under way']),
      ),
    )
    .orderBy(asc(turns.dueOn), asc(runs.number));
  return { programme: member.programme, turns: rows };
}
