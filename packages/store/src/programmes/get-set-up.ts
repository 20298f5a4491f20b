import { LETTING_ON } from '@kindred-baton/core/outcomes';
import { and, asc, count, desc, eq, inArray, isNull, lt, notInArray, sql } from 'drizzle-orm';
import type { HistoryQuery, HistoryView, SetUp } from '@kindred-baton/contracts/programmes/programme';
import type { PersonId, TeamId } from '@kindred-baton/core/ids';
import { describeChange } from '@kindred-baton/core/programmes/describe-change';
import { pushTo } from '@kindred-baton/core/push-to';
import type { Query, ReadContext } from '../operation.ts';
import { isPerson } from './is-person.ts';
import { cycles } from '../schema/cycles.ts';
import { history } from '../schema/history.ts';
import { mails } from '../schema/mails.ts';
import { nodes } from '../schema/map.ts';
import { people } from '../schema/people.ts';
import {
  absences,
  applications,
  environments,
  installations,
  invitations,
  members,
  programmes,
  teamMembers,
  teams,
} from '../schema/programmes.ts';
import { isDrawn, scenarios } from '../schema/scenarios.ts';
import { tests } from '../schema/tests.ts';
import { turns } from '../schema/turns.ts';
import { loadIdNames } from './load-id-names.ts';

/** All that a programme is set up from, and how much hangs on each part. */
export const getSetUp: Query<void, SetUp> = {
  right: 'set up the programme',
  read: async (context) => {
    const { db, actor } = context;
    const here = actor.programmeId;
    const [[programme], applicationRows, environmentRows, addresses, teamRows, personRows, invitationRows, counts] = await Promise.all([
      db.select().from(programmes).where(eq(programmes.id, here)),
      db
        .select({ id: applications.id, name: applications.name, uses: count(tests.id) })
        .from(applications)
        .leftJoin(tests, eq(tests.applicationId, applications.id))
        .where(eq(applications.programmeId, here))
        .groupBy(applications.id)
        .orderBy(asc(applications.name)),
      db
        .select({ id: environments.id, name: environments.name, uses: count(cycles.id) })
        .from(environments)
        .leftJoin(cycles, eq(cycles.environmentId, environments.id))
        .where(eq(environments.programmeId, here))
        .groupBy(environments.id)
        .orderBy(asc(environments.name)),
      db
        .select({ environmentId: installations.environmentId, applicationId: installations.applicationId, address: installations.address })
        .from(installations)
        .innerJoin(environments, and(eq(environments.id, installations.environmentId), eq(environments.programmeId, here))),
      loadTeams(context),
      loadPeople(context),
      db
        .select({
          id: invitations.id,
          name: invitations.name,
          email: invitations.email,
          roles: invitations.roles,
          invitedBy: people.name,
          invitedAt: invitations.invitedAt,
        })
        .from(invitations)
        .innerJoin(people, eq(people.id, invitations.invitedBy))
        .where(and(eq(invitations.programmeId, here), isNull(invitations.acceptedAt)))
        .orderBy(asc(invitations.name)),
      countWork(context),
    ]);
    const { key, name, timeZone, levels, codeScheme, cycleScheme, defectPrefix, defectHook, hookProblem, severityNames, namesTesters } =
      programme!;
    return {
      programme: {
        key,
        name,
        timeZone,
        levels,
        codeScheme,
        cycleScheme,
        defectPrefix,
        defectHook,
        hookProblem,
        severityNames,
        namesTesters,
      },
      applications: applicationRows,
      environments: environmentRows.map((environment) => ({
        ...environment,
        addresses: Object.fromEntries(
          addresses
            .filter(({ environmentId }) => environmentId === environment.id)
            .map(({ applicationId, address }) => [applicationId, address]),
        ),
      })),
      teams: teamRows,
      people: personRows,
      invitations: invitationRows.map((row) => ({ ...row, invitedAt: row.invitedAt.toISOString() })),
      counts,
    };
  },
};

async function loadTeams({ db, actor }: ReadContext): Promise<SetUp['teams']> {
  const [rows, memberRows, useRows] = await Promise.all([
    db.select().from(teams).where(eq(teams.programmeId, actor.programmeId)).orderBy(asc(teams.position), asc(teams.name)),
    db.select({ teamId: teamMembers.teamId, people: count() }).from(teamMembers).groupBy(teamMembers.teamId),
    db.select({ teamId: tests.teamId, tests: count() }).from(tests).where(eq(tests.programmeId, actor.programmeId)).groupBy(tests.teamId),
  ]);
  const peopleOf = new Map(memberRows.map((row) => [row.teamId, row.people]));
  const usesOf = new Map(useRows.map((row) => [row.teamId, row.tests]));
  return rows.map(({ id, name, colour, workingDays, hoursPerDay, holidays, holidayRegion }) => ({
    ...{ id, name, colour, workingDays, hoursPerDay, holidays, holidayRegion },
    ...{ people: peopleOf.get(id) ?? 0, uses: usesOf.get(id) ?? 0 },
  }));
}

async function loadPeople({ db, actor }: ReadContext): Promise<SetUp['people']> {
  const here = actor.programmeId;
  const [rows, teamRows, awayRows, turnRows] = await Promise.all([
    db
      .select({ id: people.id, name: people.name, email: people.email, roles: members.roles, leftAt: members.leftAt })
      .from(members)
      .innerJoin(people, eq(people.id, members.personId))
      .where(and(eq(members.programmeId, here), isPerson))
      .orderBy(asc(people.name)),
    db
      .select({ personId: teamMembers.personId, id: teamMembers.teamId, hoursPerDay: teamMembers.hoursPerDay })
      .from(teamMembers)
      .innerJoin(teams, and(eq(teams.id, teamMembers.teamId), eq(teams.programmeId, here)))
      .orderBy(asc(teams.position)),
    db.select().from(absences).where(eq(absences.programmeId, here)).orderBy(asc(absences.firstDay)),
    db
      .select({ personId: turns.assigneeId, turns: count() })
      .from(turns)
      .innerJoin(cycles, and(eq(cycles.id, turns.cycleId), inArray(cycles.state, ['planning', 'open', 'closing'])))
      .where(and(eq(turns.programmeId, here), notInArray(turns.outcome, LETTING_ON)))
      .groupBy(turns.assigneeId),
  ]);
  const teamsOf = new Map<PersonId, { id: TeamId; hoursPerDay: number | null }[]>();
  for (const { personId, ...team } of teamRows) pushTo(teamsOf, personId, team);
  const awayOf = new Map<PersonId, SetUp['people'][number]['absences']>();
  for (const { personId, firstDay, lastDay, note } of awayRows) pushTo(awayOf, personId, { firstDay, lastDay, note });
  const turnsOf = new Map(turnRows.map((row) => [row.personId, row.turns]));
  return rows.map(({ leftAt, ...person }) => ({
    ...person,
    ...{ teams: teamsOf.get(person.id) ?? [], absences: awayOf.get(person.id) ?? [], turns: turnsOf.get(person.id) ?? 0 },
    leftAt: leftAt?.toISOString() ?? null,
  }));
}

async function countWork({ db, actor }: ReadContext): Promise<SetUp['counts']> {
  const here = actor.programmeId;
  const [n, t, s, c] = await Promise.all([
    db
      .select({ rows: count(), owners: count(nodes.ownerId) })
      .from(nodes)
      .where(eq(nodes.programmeId, here)),
    db.select({ rows: count() }).from(tests).where(eq(tests.programmeId, here)),
    db
      .select({ rows: count() })
      .from(scenarios)
      .where(and(eq(scenarios.programmeId, here), isDrawn)),
    db.select({ rows: count() }).from(cycles).where(eq(cycles.programmeId, here)),
  ]);
  return { nodes: n[0]?.rows ?? 0, owners: n[0]?.owners ?? 0, tests: t[0]?.rows ?? 0, scenarios: s[0]?.rows ?? 0, cycles: c[0]?.rows ?? 0 };
}

const PAGE = 100;
/** The code or title of what a line is about, whatever it is. */
const subjectName = sql<string | null>`coalesce(
  (select code from cycles where cycles.id = ${history.subjectId}), (select code from defects where defects.id = ${history.subjectId}),
  (select code from tests where tests.id = ${history.subjectId}), (select code from scenarios where scenarios.id = ${history.subjectId}),
  (select code from nodes where nodes.id = ${history.subjectId}), (select title from turns where turns.id = ${history.subjectId}),
  (select title from turns join attempts on attempts.turn_id = turns.id where attempts.id = ${history.subjectId}))`;

/** Who did what, newest first. */
export const getHistory: Query<HistoryQuery, HistoryView> = {
  right: 'read the history',
  read: async (context, query) => {
    const { db, actor } = context;
    const [nameOf, rows] = await Promise.all([
      loadIdNames(context),
      db
        .select({
          id: history.id,
          at: history.at,
          by: people.name,
          subject: history.subject,
          subjectId: history.subjectId,
          name: subjectName,
          action: history.action,
          details: history.details,
        })
        .from(history)
        .leftJoin(people, eq(people.id, history.personId))
        .where(
          and(
            eq(history.programmeId, actor.programmeId),
            query?.person ? eq(history.personId, query.person) : undefined,
            query?.subject ? eq(history.subject, query.subject) : undefined,
            query?.before ? lt(history.id, query.before) : undefined,
          ),
        )
        .orderBy(desc(history.id))
        .limit(PAGE + 1),
    ]);
    return {
      lines: rows.slice(0, PAGE).map(({ details, subjectId, name, at, ...row }) => ({
        ...{ ...row, at: at.toISOString(), name: name ?? nameOf(subjectId) ?? '' },
        details: [details['why'], describeChange(details, nameOf)].filter((text) => typeof text === 'string' && text !== '').join(': '),
      })),
      hasMore: rows.length > PAGE,
    };
  },
};

/** The newest letters, sent or waiting, for whoever sets the programme up. */
export const listMails: Query<
  void,
  {
    mails: {
      id: (typeof mails.$inferSelect)['id'];
      to: string;
      toName: string;
      subject: string;
      at: string;
      sentAt: string | null;
      failures: number;
      problem: string;
    }[];
  }
> = {
  right: 'set up the programme',
  read: async ({ db, actor }) => {
    const rows = await db.select().from(mails).where(eq(mails.programmeId, actor.programmeId)).orderBy(desc(mails.createdAt)).limit(PAGE);
    return {
      mails: rows.map(({ id, to, toName, subject, createdAt, sentAt, failures, problem }) => ({
        ...{ id, to, toName, subject, failures, problem },
        ...{ at: createdAt.toISOString(), sentAt: sentAt?.toISOString() ?? null },
      })),
    };
  },
};
