import { and, eq } from 'drizzle-orm';
import type { ApplicationId, PersonId, TeamId } from '@kindred-baton/core/ids';
import type { NodeDocument } from '@kindred-baton/core/map/node-document';
import type { NamedNode } from '@kindred-baton/core/imports/choose-differences';
import { toNameKey } from '@kindred-baton/core/values/field';
import type { Query, ReadContext } from '../operation.ts';
import { isPerson } from '../programmes/is-person.ts';
import { people } from '../schema/people.ts';
import { applications, members, programmes, teams } from '../schema/programmes.ts';
import { nodes } from '../schema/map.ts';
import { loadTree } from './load-tree.ts';

/** A node as edits see it: what it has, with names instead of ids. */
export interface MapOutlineNode extends NamedNode {
  readonly documents: readonly NodeDocument[];
}

export interface NameTable<Id> {
  readonly nameOf: ReadonlyMap<Id, string>;
  /** By name; null where two are called the same. */
  readonly idOf: ReadonlyMap<string, Id | null>;
  readonly names: readonly string[];
}

export interface OutlineNames {
  readonly teams: NameTable<TeamId>;
  readonly applications: NameTable<ApplicationId>;
  readonly people: NameTable<PersonId>;
}

function toNameTable<Id>(rows: readonly { id: Id; name: string }[]): NameTable<Id> {
  const idOf = new Map<string, Id | null>();
  for (const { id, name } of rows) idOf.set(toNameKey(name), idOf.has(toNameKey(name)) ? null : id);
  return { nameOf: new Map(rows.map(({ id, name }) => [id, name])), idOf, names: rows.map(({ name }) => name) };
}

/** Teams, applications and people of the programme by name. Three queries. */
export async function loadOutlineNames({ db, actor }: Pick<ReadContext, 'db' | 'actor'>): Promise<OutlineNames> {
  const here = actor.programmeId;
  const [teamRows, applicationRows, peopleRows] = await Promise.all([
    db.select({ id: teams.id, name: teams.name }).from(teams).where(eq(teams.programmeId, here)).orderBy(teams.position),
    db
      .select({ id: applications.id, name: applications.name })
      .from(applications)
      .where(eq(applications.programmeId, here))
      .orderBy(applications.name),
    db
      .select({ id: people.id, name: people.name })
      .from(members)
      .innerJoin(people, eq(people.id, members.personId))
      .where(and(eq(members.programmeId, here), isPerson))
      .orderBy(people.name),
  ]);
  return { teams: toNameTable(teamRows), applications: toNameTable(applicationRows), people: toNameTable(peopleRows) };
}

export interface Outline {
  readonly levels: readonly string[];
  readonly codeScheme: readonly string[];
  readonly nodes: readonly MapOutlineNode[];
  /** As they are stored, by id; they need not count from 0. */
  readonly positions: ReadonlyMap<string, number>;
  readonly names: OutlineNames;
}

/** The map as an outline, in map order. Six queries. */
export async function loadOutline(context: Pick<ReadContext, 'db' | 'actor'>): Promise<Outline> {
  const [tree, names, [programme], written] = await Promise.all([
    loadTree(context),
    loadOutlineNames(context),
    context.db
      .select({ levels: programmes.levels, codeScheme: programmes.codeScheme })
      .from(programmes)
      .where(eq(programmes.id, context.actor.programmeId)),
    context.db
      .select({ id: nodes.id, description: nodes.description, documents: nodes.documents })
      .from(nodes)
      .where(eq(nodes.programmeId, context.actor.programmeId)),
  ]);
  const writtenOf = new Map(written.map(({ id, description, documents }) => [id, { description, documents }]));
  const outline = tree.nodes.map(({ node }) => ({
    ...{ id: node.id as string, parentId: node.parentId as string | null, code: node.code, name: node.name },
    ...(writtenOf.get(node.id) ?? { description: '', documents: [] }),
    ...{ isCritical: node.isCritical, isRetired: node.isRetired },
    team: node.teamId ? (names.teams.nameOf.get(node.teamId) ?? null) : null,
    application: node.applicationId ? (names.applications.nameOf.get(node.applicationId) ?? null) : null,
    owner: node.ownerId ? (names.people.nameOf.get(node.ownerId) ?? null) : null,
  }));
  const positions = new Map<string, number>(tree.nodes.map(({ node }) => [node.id, node.position]));
  return { nodes: outline, positions, names, levels: programme?.levels ?? [], codeScheme: programme?.codeScheme ?? [] };
}

/** The outline for those who only read it: exports. */
export const getOutline: Query<void, Outline> = { right: 'read', read: (context) => loadOutline(context) };
