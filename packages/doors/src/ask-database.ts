import type { Answer, Json } from '@kindred-baton/core/doors/answer';
import { DOOR_LIMITS } from '@kindred-baton/core/doors/door';
import type { Question } from '@kindred-baton/core/doors/read-question';
import pg from 'pg';
import Cursor from 'pg-cursor';
import type { OpenDoor } from './door.ts';
import { NoAnswer } from './door.ts';

const CONNECT_MS = 5_000;
/** The driver gives up a little after the database should have. */
const GRACE_MS = 2_000;

/**
 * Asks a PostgreSQL database one statement, in a transaction that only reads, with limits of time, rows and bytes. Values come as their texts; numbers that
 * JavaScript holds exactly, booleans and JSON as such. Throws NoAnswer.
 */
export async function askDatabase(door: OpenDoor, question: Extract<Question, { kind: 'database' }>): Promise<Answer> {
  const client = new pg.Client({
    ...{ connectionString: toAddress(door), connectionTimeoutMillis: CONNECT_MS, application_name: 'Kindred Baton, a door' },
    ...{ statement_timeout: DOOR_LIMITS.milliseconds, query_timeout: DOOR_LIMITS.milliseconds + GRACE_MS },
    ...{ lock_timeout: DOOR_LIMITS.milliseconds, types: { getTypeParser: () => (text: string) => text } as never },
  });
  // A connection that breaks is said by whatever waits for it.
  client.on('error', () => undefined);
  const clock = setTimeout(() => void client.end().catch(() => undefined), CONNECT_MS + DOOR_LIMITS.milliseconds + GRACE_MS);
  try {
    await client.connect();
    await client.query('begin transaction read only');
    return await readAnswer(client, question);
  } catch (error) {
    throw error instanceof NoAnswer ? error : new NoAnswer(describe(error as DatabaseProblem, door));
  } finally {
    clearTimeout(clock);
    await client.end().catch(() => undefined);
  }
}

function toAddress({ address, user, secret }: OpenDoor): string {
  const url = new URL(address);
  url.username = encodeURIComponent(user);
  url.password = encodeURIComponent(secret);
  return url.href;
}

async function readAnswer(client: pg.Client, { statement, parameters }: Extract<Question, { kind: 'database' }>): Promise<Answer> {
  const cursor = client.query(new Cursor<Record<string, string | null>>(statement, [...parameters]));
  const body: Record<string, Json>[] = [];
  let bytes = 0;
  let fields: readonly pg.FieldDef[] = [];
  while (body.length <= DOOR_LIMITS.rows && bytes <= DOOR_LIMITS.bytes) {
    const rows = await new Promise<Record<string, string | null>[]>((resolve, reject) =>
      cursor.read(ROWS_AT_ONCE, (error, some, result) => {
        // Of a statement without an answer there are none.
        fields = (result?.fields as readonly pg.FieldDef[] | undefined) ?? fields;
        if (error) reject(error);
        else resolve(some);
      }),
    );
    if (rows.length === 0) return { code: null, body, columns: fields.map(({ name }) => name), isCut: false };
    for (const row of rows) {
      bytes += Object.values(row).reduce((sum, text) => sum + (text?.length ?? 0), 0);
      body.push(Object.fromEntries(fields.map(({ name, dataTypeID }) => [name, toJson(row[name] ?? null, dataTypeID)])));
    }
  }
  return { code: null, body: body.slice(0, DOOR_LIMITS.rows), columns: fields.map(({ name }) => name), isCut: true };
}

const ROWS_AT_ONCE = 100;
const { BOOL, INT2, INT4, INT8, FLOAT4, FLOAT8, NUMERIC, JSON: JSON_TYPE, JSONB } = pg.types.builtins;
const NUMBERS: ReadonlySet<number> = new Set([INT2, INT4, INT8, FLOAT4, FLOAT8, NUMERIC]);

function toJson(text: string | null, type: number): Json {
  if (text === null) return null;
  if (type === BOOL) return text === 't';
  if (type === JSON_TYPE || type === JSONB) return JSON.parse(text) as Json;
  // “52.10” stays as it is written; as a number it would lose its zero.
  return NUMBERS.has(type) && String(Number(text)) === text ? Number(text) : text;
}

type DatabaseProblem = Error & { readonly code?: string };

/** By the codes of PostgreSQL's documentation, appendix A. */
const CODES: Readonly<Record<string, string>> = {
  '25006': 'would be changed by the statement; a door to a database only reads.',
  '28P01': 'refuses the user or the password of the door.',
  '28000': 'refuses the user of the door.',
  '42501': 'gives this user no right to what the statement asks for.',
  '57014': `did not answer within ${DOOR_LIMITS.milliseconds / 1_000} seconds.`,
  '55P03': `did not answer within ${DOOR_LIMITS.milliseconds / 1_000} seconds: what is asked for is locked.`,
};

function describe({ code = '', message }: DatabaseProblem, { name, address }: OpenDoor): string {
  const known = CODES[code];
  if (known !== undefined) return `“${name}” ${known}`;
  if (/multiple commands/.test(message)) return `“${name}” takes one statement at a time.`;
  if (/timeout|terminated/i.test(message)) return `“${name}” did not answer within ${DOOR_LIMITS.milliseconds / 1_000} seconds.`;
  if (/^(?:22|42|0A)/.test(code)) return `“${name}” does not understand the statement: ${message}.`;
  return `“${name}” could not be reached at ${new URL(address).host} (${code || message}).`;
}
