import { and, asc, eq, isNull } from 'drizzle-orm';
import type { Choices, Viewer } from '@kindred-baton/contracts/programmes/programme';
import { RIGHTS, hasRight } from '@kindred-baton/core/programmes/roles';
import { AppError } from '@kindred-baton/contracts/errors';
import type { PersonId } from '@kindred-baton/core/ids';
import type { Store } from '../database.ts';
import type { Query } from '../operation.ts';
import { isPerson } from './is-person.ts';
import { people } from '../schema/people.ts';
import { applications, environments, members, programmes, teams } from '../schema/programmes.ts';

/** Who is looking and what she may do: for the page around every view. One query. */
export const getViewer: Query<void, Viewer> = {
  right: 'read',
  // She is told which other programmes she belongs to.
  reach: 'all programmes',
  read: async ({ db, actor }) => {
    const rows = await db
      .select({ person: { id: people.id, name: people.name }, programme: programmes, roles: members.roles })
      .from(members)
      .innerJoin(people, eq(people.id, members.personId))
      .innerJoin(programmes, eq(programmes.id, members.programmeId))
      .where(and(eq(members.personId, actor.personId), isNull(members.leftAt)))
      .orderBy(asc(programmes.name));
    const here = rows.find((row) => row.programme.id === actor.programmeId);
    if (!here) throw new AppError('not found', 'You no longer belong to this programme.');
    const { key, name, timeZone, levels, severityNames, isDemo } = here.programme;
    return {
      person: here.person,
      roles: here.roles,
      rights: RIGHTS.filter((right) => hasRight(here.roles, right)),
      programme: { key, name, timeZone, levels, severityNames, isDemo },
      programmes: rows.map(({ programme }) => ({ key: programme.key, name: programme.name })),
    };
  },
};

export const getChoices: Query<void, Choices> = {
  right: 'read',
  read: async ({ db, actor }) => {
    const named = <T extends typeof applications | typeof environments>(table: T) =>
      db
        .select({ id: table.id, name: table.name })
        .from(table as typeof applications)
        .where(eq(table.programmeId, actor.programmeId))
        .orderBy(asc(table.name));
    const [teamRows, applicationRows, environmentRows, peopleRows] = await Promise.all([
      db
        .select({ id: teams.id, name: teams.name, colour: teams.colour })
        .from(teams)
        .where(eq(teams.programmeId, actor.programmeId))
        .orderBy(asc(teams.position), asc(teams.name)),
      named(applications),
      named(environments),
      db
        .select({ id: people.id, name: people.name })
        .from(members)
        .innerJoin(people, eq(people.id, members.personId))
        .where(and(eq(members.programmeId, actor.programmeId), isNull(members.leftAt), isPerson))
        .orderBy(asc(people.name)),
    ]);
    return { teams: teamRows, applications: applicationRows, environments: environmentRows, people: peopleRows };
  },
};

/** Where a person lands after signing in: her first programme, and her roles there. */
export async function findHome(store: Store, personId: PersonId): Promise<{ key: string; roles: readonly string[] } | undefined> {
  const [home] = await store.db
    .select({ key: programmes.key, roles: members.roles })
    .from(members)
    .innerJoin(programmes, eq(programmes.id, members.programmeId))
    .where(and(eq(members.personId, personId), isNull(members.leftAt)))
    .orderBy(asc(programmes.createdAt))
    .limit(1);
  return home;
}

/** The demo's accounts, for its sign-in page; empty where there is no demo programme. */
export async function listDemoAccounts(
  store: Store,
): Promise<{ name: string; email: string; roles: readonly string[]; programme: string }[]> {
  return store.db
    .select({ name: people.name, email: people.email, roles: members.roles, programme: programmes.name })
    .from(programmes)
    .innerJoin(members, eq(members.programmeId, programmes.id))
    .innerJoin(people, eq(people.id, members.personId))
    .where(and(eq(programmes.isDemo, true), isPerson))
    .orderBy(asc(people.createdAt), asc(people.name));
}
