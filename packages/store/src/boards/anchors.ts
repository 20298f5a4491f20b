import { AppError } from '@kindred-baton/contracts/errors';
import type { Cut } from '@kindred-baton/core/boards/slice';
import { NONE } from '@kindred-baton/core/progress/facet';
import { pushTo } from '@kindred-baton/core/push-to';
import type { SQL } from 'drizzle-orm';
import { and, eq, inArray } from 'drizzle-orm';
import type { PgColumn, PgTable } from 'drizzle-orm/pg-core';
import type { ReadContext } from '../operation.ts';
import type { Anchor } from '../schema/boards.ts';
import { cycles } from '../schema/cycles.ts';
import { defects } from '../schema/defects.ts';
import { nodes } from '../schema/map.ts';
import { people } from '../schema/people.ts';
import { applications, members, teams } from '../schema/programmes.ts';
import { requirements } from '../schema/requirements.ts';
import { scenarios } from '../schema/scenarios.ts';
import { tests } from '../schema/tests.ts';

interface Referent {
  readonly word: string;
  readonly table: PgTable;
  readonly id: PgColumn;
  /** What the address calls it by. */
  readonly called: PgColumn;
  readonly isOwn: (context: ReadContext) => SQL;
}

const inProgramme =
  (column: PgColumn) =>
  ({ actor }: ReadContext) =>
    eq(column, actor.programmeId);
const byCode = (word: string, table: PgTable & Record<'id' | 'code' | 'programmeId', PgColumn>): Referent => ({
  ...{ word, table, id: table.id, called: table.code, isOwn: inProgramme(table.programmeId) },
});
const byName = (word: string, table: PgTable & Record<'id' | 'name' | 'programmeId', PgColumn>): Referent => ({
  ...{ word, table, id: table.id, called: table.name, isOwn: inProgramme(table.programmeId) },
});
const member: Referent = {
  ...{ word: 'person', table: people, id: people.id, called: people.name },
  isOwn: ({ db, actor }) =>
    inArray(people.id, db.select({ id: members.personId }).from(members).where(eq(members.programmeId, actor.programmeId))),
};

/** The parameters of a cut that name something of the programme. */
const REFERENTS: Readonly<Record<string, Referent>> = {
  ...{ scope: byCode('process', nodes), node: byCode('process', nodes), cycle: byCode('cycle', cycles), test: byCode('test', tests) },
  ...{ scenario: byCode('scenario', scenarios), requirement: byCode('requirement', requirements), defect: byCode('defect', defects) },
  ...{ team: byName('team', teams), application: byName('application', applications), person: member },
};

/** A group of cycles (@open) and *none* (-) name nothing. */
const listNamed = (name: string, text: string): string[] =>
  (name === 'cycle' ? text.split(',') : [text]).filter((value) => value !== NONE && value !== '' && !value.startsWith('@'));

/** What a cut names, by id. What is called so by nothing is refused: nobody would know what was meant. */
export async function findAnchors(context: ReadContext, cut: Cut): Promise<Anchor[]> {
  const found: Anchor[] = [];
  for (const [name, text] of Object.entries(cut)) {
    const referent = REFERENTS[name];
    const named = referent ? listNamed(name, text) : [];
    if (!referent || named.length === 0) continue;
    const ids = new Map((await findBy(context, referent, inArray(referent.called, named))).map(({ id, called }) => [called, id]));
    for (const value of named) {
      const id = ids.get(value);
      if (id === undefined) throw new AppError('invalid', `There is no ${referent.word} “${value}”; take it out of the cut first.`);
      found.push({ name, value, id });
    }
  }
  return found;
}

interface Kept {
  readonly cut: Cut;
  readonly anchors: readonly Anchor[];
}

interface Followed {
  readonly cut: Record<string, string>;
  /** What is gone, as it was called. */
  readonly gone: string[];
}

/** Kept cuts as they are today: what was renamed since by its name of today, what is gone left out and named. One query for each kind of thing. */
export async function followCuts(context: ReadContext, kept: readonly Kept[]): Promise<Followed[]> {
  const ids = new Map<Referent, string[]>();
  for (const { name, id } of kept.flatMap(({ anchors }) => anchors)) if (REFERENTS[name]) pushTo(ids, REFERENTS[name], id);
  const called = new Map<string, string>();
  for (const [referent, own] of ids)
    for (const row of await findBy(context, referent, inArray(referent.id, own))) called.set(row.id, row.called);
  return kept.map((slice) => followCut(slice, called));
}

function followCut({ cut, anchors }: Kept, called: ReadonlyMap<string, string>): Followed {
  const gone: string[] = [];
  const entries = Object.entries(cut).flatMap(([name, text]) => {
    const own = anchors.filter((anchor) => anchor.name === name);
    if (own.length === 0) return [[name, text] as const];
    for (const { id, value } of own) if (!called.has(id)) gone.push(`${REFERENTS[name]?.word ?? name} ${value}`);
    const left = own.flatMap(({ id }) => called.get(id) ?? []);
    return left.length === 0 ? [] : [[name, left.join(',')] as const];
  });
  return { cut: Object.fromEntries(entries), gone };
}

async function findBy(context: ReadContext, { table, id, called, isOwn }: Referent, which: SQL): Promise<{ id: string; called: string }[]> {
  const rows = await context.db
    .select({ id, called })
    .from(table)
    .where(and(isOwn(context), which));
  return rows.map((row) => ({ id: String(row.id), called: String(row.called) }));
}
