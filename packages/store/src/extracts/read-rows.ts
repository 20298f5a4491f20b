import { AppError } from '@kindred-baton/contracts/errors';
import type { RowsQuery } from '@kindred-baton/contracts/extracts/extract';
import type { RowColumn, RowKind } from '@kindred-baton/core/extracts/row-kinds';
import { listColumns } from '@kindred-baton/core/extracts/row-kinds';
import type { SQL, SQLWrapper } from 'drizzle-orm';
import { and, eq, sql } from 'drizzle-orm';
import type { PartedQuery, Query, ReadContext } from '../operation.ts';
import { nodes } from '../schema/map.ts';
import { attemptRows } from './attempt-rows.ts';
import { defectRows } from './defect-rows.ts';
import type { RowSource } from './row-source.ts';
import { stepRows } from './step-rows.ts';
import { turnRows } from './turn-rows.ts';

const SOURCES: { readonly [Kind in RowKind]: RowSource<Kind> } = {
  turns: turnRows,
  attempts: attemptRows,
  steps: stepRows,
  defects: defectRows,
};

export interface RowsWanted {
  readonly kind: RowKind;
  readonly query: RowsQuery;
}

export interface RowPageWanted extends RowsWanted {
  /** Behind which row; null: from the first. */
  readonly after: string | null;
  readonly limit: number;
}

export interface RowPage {
  /** Each a row as JSON. */
  readonly lines: readonly string[];
  /** Behind which row it goes on; null: these were the last. */
  readonly next: string | null;
}

interface Read {
  readonly key: string;
  readonly line: string;
}

/** So many rows, in the order of their keys. */
export const readRowPage: Query<RowPageWanted, RowPage> = {
  right: 'read',
  read: async (context, { after, limit, ...wanted }) => {
    const { rows } = await context.db.execute<Read & Record<string, unknown>>(
      await selectRows(context, wanted, { as: 'json', page: { after, limit } }),
    );
    return { lines: rows.map(({ line }) => line), next: rows.length < limit ? null : (rows.at(-1)?.key ?? null) };
  },
};

const AT_ONCE = 2_000;

/** All rows of one moment, some thousand at a time, in the order in which they come. */
export const streamRows: PartedQuery<RowsWanted & { readonly as: 'csv' | 'json' }, readonly string[]> = {
  right: 'read',
  parts: async function* (context, { as, ...wanted }) {
    // All will be read: the plan that is through first, not the one that begins first.
    await context.db.execute(sql`set local cursor_tuple_fraction = 1`);
    await context.db.execute(sql`declare going_out no scroll cursor for ${await selectRows(context, wanted, { as, page: null })}`);
    for (;;) {
      const { rows } = await context.db.execute<Read & Record<string, unknown>>(sql`fetch ${sql.raw(String(AT_ONCE))} from going_out`);
      if (rows.length === 0) return;
      yield rows.map(({ line }) => line);
    }
  },
};

interface Selecting {
  readonly as: 'csv' | 'json';
  /** null: all, in no order. */
  readonly page: Pick<RowPageWanted, 'after' | 'limit'> | null;
}

/** The database writes the lines: whoever sends them on only joins them (decision 0042). Each cell is looked up once, then written. */
async function selectRows(context: ReadContext, { kind, query }: RowsWanted, { as, page }: Selecting): Promise<SQL> {
  const source: RowSource = SOURCES[kind];
  const columns = listColumns(kind);
  const cells: Readonly<Record<string, SQLWrapper>> = source.cells(context);
  const where = and(...(await source.conditions(context, query)), isBehind(source, page?.after ?? null));
  const keys = source.key.map((_, index) => sql.raw(`key_${index}`));
  const found = list([
    ...source.key.map(({ cell }, index) => sql`${cell} as ${keys[index]}`),
    ...columns.map(({ name }) => sql`${cells[name]} as ${sql.identifier(name)}`),
  ]);
  const texts = columns.map(({ name, type }) => ({ name, text: write[as](sql`${sql.identifier(name)}`, type) }));
  const [inner, outer] = page
    ? [sql`order by ${list(source.key.map(({ cell }) => sql`${cell}`))} limit ${page.limit}`, sql`order by ${list(keys)}`]
    : [sql`offset 0`, sql``];
  return sql`with recursive ${placePaths(context.actor.programmeId)}
    select concat_ws(':', ${list(keys)}) as key, ${as === 'csv' ? joinCsv(texts) : joinJson(texts)} as line
    from (select ${found} ${source.from} where ${where} ${inner}) as found ${outer}`;
}

const list = (parts: readonly SQL[]): SQL => sql.join([...parts], sql`, `);

/** Names from the top of the map to each node. */
const placePaths = (programmeId: string): SQL => sql`paths(id, code, stream, path) as (
  select ${nodes.id}, ${nodes.code}, ${nodes.name}, ${nodes.name} from ${nodes} where ${eq(nodes.programmeId, programmeId as never)} and ${nodes.parentId} is null
  union all select below.id, below.code, paths.stream, paths.path || ' > ' || below.name from nodes below join paths on below.parent_id = paths.id)`;

const PARTS = { uuid: /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/, int: /^\d{1,9}$/ } as const;

function isBehind({ key }: RowSource, after: string | null): SQL | undefined {
  if (after === null) return undefined;
  const parts = after.split(':');
  if (parts.length !== key.length || key.some(({ type }, index) => !PARTS[type].test(parts[index] ?? '')))
    throw new AppError('invalid', 'There is no page behind this: take after as the page before said it.');
  const cells = key.map(({ cell }) => sql`${cell}`);
  const values = key.map(({ type }, index) => sql`${parts[index]}::${sql.raw(type)}`);
  return sql`(${sql.join(cells, sql`, `)}) > (${sql.join(values, sql`, `)})`;
}

type Write = (cell: SQL, type: RowColumn['type']) => SQL;

const toMoment = (cell: SQL): SQL => sql`to_char(${cell} at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.MS"Z"')`;

/** A text that a spreadsheet would take for a formula gets an apostrophe in front (OWASP, CSV Injection), as formats/write-tables does it. */
const guard = (text: SQL): SQL =>
  sql`case when left(${text}, 1) in ('=', '+', '-', '@', e'\\t', e'\\r') and ${text} !~ '^[+-]?\\d+([.,]\\d+)?$' then '''' || ${text} else ${text} end`;

const write: Readonly<Record<Selecting['as'], Write>> = {
  csv: (cell, type) => {
    if (type === 'text') return sql`'"' || replace(${guard(sql`(${cell})::text`)}, '"', '""') || '"'`;
    return type === 'moment' ? toMoment(cell) : sql`(${cell})::text`;
  },
  json: (cell, type) => (type === 'moment' ? toMoment(cell) : cell),
};

interface Written {
  readonly name: string;
  readonly text: SQL;
}

/** concat leaves out what is null: an empty cell. */
const joinCsv = (columns: readonly Written[]): SQL =>
  sql`concat(${sql.join(
    columns.map(({ text }) => text),
    sql`, ',', `,
  )})`;

const joinJson = (columns: readonly Written[]): SQL =>
  sql`json_build_object(${sql.join(
    columns.map(({ name, text }) => sql`${sql.raw(`'${name}'`)}, ${text}`),
    sql`, `,
  )})::text`;
