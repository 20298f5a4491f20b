import { sql } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { Database, Store } from '../database.ts';

/** A programme by itself: every row of every table that is its own, and who the people in it are. Ids are those of where it was taken out. */
export interface TakenProgramme {
  /** How far the schema had come: a programme goes in where it is the same. */
  readonly schema: number;
  readonly programme: Row;
  readonly people: readonly Row[];
  /** Rows by table, in an order in which each stands behind what it refers to. */
  readonly tables: Readonly<Record<string, readonly Row[]>>;
}

/** A row as PostgreSQL writes it as JSON: columns by name, bytes as hexadecimal text after `\\x`. */
export type Row = Readonly<Record<string, unknown>>;

/** What stays behind: letters and work on their way, and what lets somebody in. */
const LEFT_BEHIND: ReadonlySet<string> = new Set(['mails', 'jobs', 'invitations', 'data_addresses', 'board_links', 'leases', 'trials']);
/** Columns that mean something here alone. */
const OWN_COLUMNS: Readonly<Record<string, readonly string[]>> = {
  programmes: ['hooked_up_to', 'hook_problem'],
  members: ['feed_token'],
  runners: ['token_hash', 'instance', 'heard_at'],
  persona_starts: ['secret'],
  doors: ['secret'],
  history: ['id'],
  scenario_states: ['id'],
};

type Reader = Pick<Database, 'execute'>;

/** All of a programme at one moment. Reads whole tables into memory: a programme of 50,000 turns is some hundred MB, its pictures beside. */
export async function takeProgrammeOut(store: Store, key: string): Promise<TakenProgramme> {
  return store.db.transaction(
    async (db) => {
      const [programme] = await listRows(db, 'programmes', sql`key = ${key}`);
      if (!programme) throw new AppError('not found', `There is no programme /${key}.`);
      const tables: Record<string, readonly Row[]> = {};
      for (const { name } of await listOwnTables(db)) tables[name] = await listRows(db, name, sql`programme_id = ${programme['id']}`);
      const people = await listPeople(db, tables);
      return { schema: await getSchema(db), programme, people, tables };
    },
    { isolationLevel: 'repeatable read', accessMode: 'read only' },
  );
}

async function listRows(db: Reader, table: string, where: ReturnType<typeof sql>): Promise<Row[]> {
  const { rows: made } = await db.execute<{ name: string }>(
    sql`select column_name as name from information_schema.columns where table_schema = 'public' and table_name = ${table} and is_generated = 'ALWAYS'`,
  );
  const without = [...(OWN_COLUMNS[table] ?? []), ...made.map(({ name }) => name)];
  const order = without.includes('id') ? sql`t.id` : sql`to_jsonb(t)::text`;
  const { rows } = await db.execute<{ row: Record<string, unknown> }>(
    sql`select to_jsonb(t) - ${sql.param(without)}::text[] as row from ${sql.identifier(table)} t where ${where} order by ${order}`,
  );
  return rows.map(({ row }) => row);
}

export interface OwnTable {
  readonly name: string;
  /** Columns that refer to rows of other tables, with the table. */
  readonly references: readonly { readonly column: string; readonly to: string }[];
}

/** Tables of which rows belong to a programme, each behind those that it refers to. */
export async function listOwnTables(db: Reader): Promise<OwnTable[]> {
  const { rows: names } = await db.execute<{ name: string }>(
    sql`select table_name as name from information_schema.columns where table_schema = 'public' and column_name = 'programme_id' order by 1`,
  );
  const { rows: references } = await db.execute<{ from: string; column: string; to: string }>(sql`
    select constrained.relname as "from", attribute.attname as "column", referred.relname as "to"
    from pg_constraint c
    join pg_class constrained on constrained.oid = c.conrelid
    join pg_class referred on referred.oid = c.confrelid
    join pg_attribute attribute on attribute.attrelid = c.conrelid and attribute.attnum = any (c.conkey)
    where c.contype = 'f' and constrained.relnamespace = 'public'::regnamespace order by 1, 2`);
  const left = names.filter(({ name }) => !LEFT_BEHIND.has(name)).map(({ name }) => name);
  const sorted: OwnTable[] = [];
  while (left.length > 0) {
    const at = left.findIndex((name) => references.every(({ from, to }) => from !== name || to === name || !left.includes(to)));
    const [name] = left.splice(Math.max(at, 0), 1);
    if (at < 0 || name === undefined) throw new Error(`The tables ${[name, ...left].join(', ')} refer to one another in a circle.`);
    sorted.push({ name, references: references.filter(({ from }) => from === name).map(({ column, to }) => ({ column, to })) });
  }
  return sorted;
}

/** Who is named anywhere in the rows: name and address, no password. */
async function listPeople(db: Reader, tables: TakenProgramme['tables']): Promise<Row[]> {
  const ids = new Set<string>();
  for (const { name, references } of await listOwnTables(db))
    for (const { column, to } of references)
      if (to === 'people') for (const row of tables[name] ?? []) if (typeof row[column] === 'string') ids.add(row[column]);
  const { rows } = await db.execute<{ id: string; name: string; email: string }>(
    sql`select id, name, email from people where id = any (${sql.param([...ids])}::uuid[]) order by email`,
  );
  return rows;
}

export async function getSchema(db: Reader): Promise<number> {
  const { rows } = await db.execute<{ steps: number }>(sql`select count(*)::int as steps from drizzle.__drizzle_migrations`);
  return rows[0]?.steps ?? 0;
}
