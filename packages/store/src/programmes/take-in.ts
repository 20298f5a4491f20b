import { randomUUID } from 'node:crypto';
import { inArray, sql } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { PersonId, ProgrammeId } from '@kindred-baton/core/ids';
import { chunk } from '../chunk.ts';
import type { Database, Store } from '../database.ts';
import { createId } from '../ids.ts';
import { people } from '../schema/people.ts';
import { programmes } from '../schema/programmes.ts';
import type { OwnTable, Row, TakenProgramme } from './take-out.ts';
import { createPoolAddress, POOL_ADDRESS } from './pool-address.ts';
import { getSchema, listOwnTables } from './take-out.ts';

type Writer = Pick<Database, 'execute' | 'select' | 'insert'>;

const UUID = /[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}/g;

/**
 * Takes a programme in beside what is there, all of it or nothing: every row gets a new id, wherever ids stand, also within documents. People are
 * known by their addresses; who is new here asks for a password on the sign-in page. Refuses a file that refers to anything outside itself.
 */
export async function takeProgrammeIn(
  store: Store,
  taken: TakenProgramme,
  { key }: { readonly key: string },
): Promise<{ readonly ids: ReadonlyMap<string, string>; readonly newPeople: readonly string[] }> {
  return store.db.transaction(async (db) => {
    const schema = await getSchema(db);
    if (taken.schema !== schema)
      throw new AppError(
        'invalid',
        `The file is of another release (its tables had ${taken.schema} steps behind them, these have ${schema}). Bring both to the same release.`,
      );
    const [known] = (await db
      .select({ id: programmes.id })
      .from(programmes)
      .where(sql`key = ${key}`)) as { id: ProgrammeId }[];
    if (known) throw new AppError('conflict', `There is a programme at /${key} already. Take it in under another address.`);
    const tables = await listOwnTables(db);
    const unknown = Object.keys(taken.tables).filter((name) => !tables.some((table) => table.name === name));
    if (unknown.length > 0) throw new AppError('invalid', `The file has tables that are not known here: ${unknown.join(', ')}.`);
    const { ids: idOfPerson, newPeople } = await findPeople(db, taken.people);
    // A pool bears the id of the person that it is.
    const ids = new Map([...listIds(taken).map((id) => [id, randomUUID()] as const), ...idOfPerson]);
    const translate = (row: Row): Row => JSON.parse(JSON.stringify(row).replace(UUID, (id) => ids.get(id) ?? id)) as Row;
    const programme = { ...translate(taken.programme), key, hooked_up_to: 0, hook_problem: '' };
    requireOwn(taken, tables, new Set(ids.keys()));
    await insertRows(db, 'programmes', [programme]);
    for (const { name } of tables) {
      const rows = (taken.tables[name] ?? []).map(translate);
      await insertRows(db, name, rows);
    }
    // A hook is told what happens from now on, not what was before.
    await db.execute(sql`update programmes set hooked_up_to = coalesce((select max(id) from history), 0) where key = ${key}`);
    return { ids, newPeople };
  });
}

async function findPeople(db: Writer, wanted: readonly Row[]): Promise<{ ids: Map<string, string>; newPeople: string[] }> {
  const emails = wanted.map(({ email }) => String(email));
  const found = await db.select({ id: people.id, email: people.email }).from(people).where(inArray(people.email, emails));
  const idOf = new Map(found.map(({ id, email }) => [email, id]));
  const ids = new Map<string, string>();
  const newPeople: string[] = [];
  for (const { id, name, email } of wanted) {
    const isPool = String(email).endsWith(POOL_ADDRESS);
    const known = isPool ? undefined : idOf.get(String(email));
    const own: PersonId = known ?? createId<'person'>();
    ids.set(String(id), own);
    if (known) continue;
    if (!isPool) newPeople.push(String(email));
    const address = isPool ? createPoolAddress() : String(email);
    await db.insert(people).values({ id: own, name: String(name), email: address, emailVerified: !isPool });
  }
  return { ids, newPeople };
}

/** Every id that a row of the file bears. */
function listIds({ programme, tables }: TakenProgramme): string[] {
  return [programme, ...Object.values(tables).flat()].flatMap(({ id }) => (typeof id === 'string' ? [id] : []));
}

/** Each row is of this programme, and what it refers to is in the file. */
function requireOwn({ programme, tables: rowsOf }: TakenProgramme, tables: readonly OwnTable[], ids: ReadonlySet<string>): void {
  for (const { name, references } of tables)
    for (const row of rowsOf[name] ?? []) {
      const isOwn = row['programme_id'] === programme['id'];
      const lost = references.find(({ column }) => typeof row[column] === 'string' && !ids.has(row[column]));
      if (!isOwn || lost)
        throw new AppError(
          'invalid',
          `The file does not hold together: a row of ${name} refers to ${isOwn && lost ? lost.to : 'another programme'}, which is not in it.`,
        );
    }
}

const PIECE = 500;
/** Pictures go one by one. */
const PIECES: Readonly<Record<string, number>> = { evidence: 1 };
/** Rows of these refer to others of the same table. */
const WHOLE: ReadonlySet<string> = new Set(['nodes', 'attempts']);

/** Rows that refer to one another within a table go in with one statement, which is checked at its end. */
async function insertRows(db: Writer, table: string, rows: readonly Row[]): Promise<void> {
  const [first] = rows;
  if (!first) return;
  const columns = sql.join(
    Object.keys(first).map((column) => sql.identifier(column)),
    sql`, `,
  );
  const size = WHOLE.has(table) ? rows.length : (PIECES[table] ?? PIECE);
  for (const piece of chunk(rows, size)) {
    const list = sql`jsonb_populate_recordset(null::${sql.identifier(table)}, ${JSON.stringify(piece)}::jsonb)`;
    try {
      await db.execute(sql`insert into ${sql.identifier(table)} (${columns}) select ${columns} from ${list}`);
    } catch (error) {
      throw new AppError('invalid', `The rows of ${table} do not fit: ${(error as { cause?: Error }).cause?.message ?? String(error)}`);
    }
  }
}
