import type { Pool } from 'pg';
import type { Column, KindName, Row, Values } from './kinds.ts';
import { KINDS } from './kinds.ts';
import { atTable } from '../spans.ts';

/** The records of one environment: each kind in its table, in the environment's schema. */
export interface Records {
  readonly create: <Name extends KindName>(kind: Name, values: Values<Name>, number?: string) => Promise<Row<Name>>;
  readonly find: <Name extends KindName>(kind: Name, number: string) => Promise<Row<Name> | undefined>;
  readonly change: <Name extends KindName>(kind: Name, number: string, values: Values<Name>) => Promise<void>;
  /** Newest first. */
  readonly list: <Name extends KindName>(kind: Name, where?: Values<Name>, most?: number) => Promise<Row<Name>[]>;
}

const MOST = 200;
const TYPES: Readonly<Record<Column, string>> = { text: 'text', money: 'numeric(14,2)', number: 'numeric', day: 'date' };

/** Makes what is missing of an environment's schema: tables, and for each kind the numbers that it gives. */
export async function laySchema(pool: Pool, schema: string): Promise<void> {
  const statements = Object.entries(KINDS).flatMap(([, { table, columns, pattern }]) => {
    const [from, to] = rangeOf(pattern);
    const listed = Object.entries(columns).map(([name, type]) => `"${name}" ${TYPES[type as Column]}`);
    return [
      `create table if not exists "${schema}"."${table}" (number text primary key, made_at timestamptz not null default now(), ${listed.join(', ')})`,
      `create sequence if not exists "${schema}"."${table}_numbers" minvalue ${from} maxvalue ${to} start ${from + 1} cycle`,
    ];
  });
  await pool.query([`create schema if not exists "${schema}"`, ...statements].join(';\n'));
}

/** Takes everything away; `laySchema` makes it anew. */
export const dropSchema = (pool: Pool, schema: string) => pool.query(`drop schema if exists "${schema}" cascade`);

const digitsOf = (pattern: string) => pattern.match(/9+$/)?.[0].length ?? 0;
const rangeOf = (pattern: string): [number, number] => [10 ** (digitsOf(pattern) - 1), 10 ** digitsOf(pattern) - 1];
const print = (pattern: string, count: string) => pattern.slice(0, pattern.length - digitsOf(pattern)) + count;

export function openRecords(pool: Pool, schema: string): Records {
  const at = <Result>(operation: string, kind: KindName, work: () => Promise<Result>) =>
    atTable(operation, schema, KINDS[kind].table, work);
  const tableOf = (kind: KindName) => `"${schema}"."${KINDS[kind].table}"`;
  const read = (kind: KindName) =>
    `select number, ${Object.entries(KINDS[kind].columns)
      .map(([name, type]) => (type === 'day' ? `to_char("${name}", 'YYYY-MM-DD')` : `"${name}"::text`) + ` as "${name}"`)
      .join(', ')} from ${tableOf(kind)}`;
  const toRow = (raw: Record<string, string | null>) => Object.fromEntries(Object.entries(raw).map(([key, value]) => [key, value ?? '']));
  return {
    create: (kind, values, given) =>
      at('INSERT', kind, async () => {
        const names = Object.keys(values);
        const columns = ['number', ...names.map((name) => `"${name}"`)].join(', ');
        const places = ['$1', ...names.map((_, k) => `$${k + 2}`)].join(', ');
        for (;;) {
          const number = given ?? print(KINDS[kind].pattern, await next(pool, `"${schema}"."${KINDS[kind].table}_numbers"`));
          const { rowCount } = await pool.query(
            `insert into ${tableOf(kind)} (${columns}) values (${places}) on conflict (number) do nothing`,
            [number, ...toParameters(values)],
          );
          if (rowCount === 1 || given !== undefined) return (await find(kind, number)) as never;
        }
      }),
    find: find as Records['find'],
    change: (kind, number, values) =>
      at('UPDATE', kind, async () => {
        const sets = Object.keys(values).map((name, k) => `"${name}" = $${k + 2}`);
        await pool.query(`update ${tableOf(kind)} set ${sets.join(', ')} where number = $1`, [number, ...toParameters(values)]);
      }),
    list: (kind, where = {}, most = MOST) =>
      at('SELECT', kind, async () => {
        const sets = Object.keys(where).map((name, k) => `"${name}" = $${k + 1}`);
        const { rows } = await pool.query(
          `${read(kind)}${sets.length > 0 ? ` where ${sets.join(' and ')}` : ''} order by made_at desc, number desc limit ${most}`,
          toParameters(where),
        );
        return rows.map(toRow) as never;
      }),
  };

  function find(kind: KindName, number: string): Promise<Record<string, string> | undefined> {
    return at('SELECT', kind, async () => {
      const { rows } = await pool.query<Record<string, string | null>>(`${read(kind)} where number = $1`, [number.trim()]);
      return rows[0] && toRow(rows[0]);
    });
  }
}

const toParameters = (values: object) => Object.values(values).map((value: unknown) => (value === '' ? null : value));

async function next(pool: Pool, sequence: string): Promise<string> {
  const { rows } = await pool.query<{ value: string }>('select nextval($1::regclass)::text as value', [sequence]);
  return rows[0]?.value ?? '';
}
