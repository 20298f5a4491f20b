import { and, asc, desc, eq, exists, inArray, isNull, ne, or, sql } from 'drizzle-orm';
import { alias } from 'drizzle-orm/pg-core';
import type { Choices, Viewer } from '@kindred-baton/contracts/programmes/programme';
import { LIVE_STATES } from '@kindred-baton/core/cycles/cycle';
import type { Role } from '@kindred-baton/core/programmes/roles';
import { RIGHTS, hasRight } from '@kindred-baton/core/programmes/roles';
import { AppError } from '@kindred-baton/contracts/errors';
import type { PersonId } from '@kindred-baton/core/ids';
import type { Store } from '../database.ts';
import type { Query } from '../operation.ts';
import { isPerson } from './is-person.ts';
import { cycles, signOffs } from '../schema/cycles.ts';
import { nodes } from '../schema/map.ts';
import { people } from '../schema/people.ts';
import { applications, environments, members, programmes, teams } from '../schema/programmes.ts';
import { turns } from '../schema/turns.ts';

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

interface Home {
  readonly key: string;
  readonly roles: readonly Role[];
  /** The newest cycle under way in which something of hers is not decided on; null: there is none. */
  readonly decidesOn: string | null;
}

/** Where a person lands: a programme of hers, the first where none is named, and what is hers there. */
export async function findHome(store: Store, personId: PersonId, key?: string): Promise<Home | undefined> {
  const over = alias(nodes, 'over');
  const own = store.db
    .select({ id: nodes.id })
    .from(nodes)
    .leftJoin(over, eq(over.id, nodes.parentId))
    .where(
      and(
        ...[eq(nodes.programmeId, programmes.id), eq(nodes.ownerId, personId), or(isNull(over.ownerId), ne(over.ownerId, personId))],
        sql`not exists (select from ${signOffs} where ${signOffs.cycleId} = ${cycles.id} and ${signOffs.nodeId} = ${nodes.id})`,
      ),
    );
  const touched = store.db
    .select({ id: turns.id })
    .from(turns)
    .innerJoin(nodes, eq(nodes.id, turns.nodeId))
    .where(and(eq(turns.cycleId, cycles.id), eq(nodes.ownerId, personId)));
  const decidesOn = store.db
    .select({ code: cycles.code })
    .from(cycles)
    .where(and(eq(cycles.programmeId, programmes.id), inArray(cycles.state, LIVE_STATES), exists(own), exists(touched)))
    .orderBy(desc(cycles.startsOn))
    .limit(1);
  const [home] = await store.db
    .select({ key: programmes.key, roles: members.roles, decidesOn: sql<string | null>`(${decidesOn})` })
    .from(members)
    .innerJoin(programmes, eq(programmes.id, members.programmeId))
    .where(and(eq(members.personId, personId), isNull(members.leftAt), key === undefined ? undefined : eq(programmes.key, key)))
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
