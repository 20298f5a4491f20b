import type { Pool } from 'pg';

/** Whoever may read the tables of an environment and change none: for reports, and for tests that look behind the screens. */
export const readerOf = (environment: string) => ({ user: `millrace_${environment}_reader`, password: 'practice-reader' });

/** Lets the reader into an environment; where the server gives no right to make a role there is none. */
export async function letReaderIn(pool: Pool, environment: string): Promise<void> {
  const { user, password } = readerOf(environment);
  const { rows } = await pool.query<{ may: boolean; database: string }>(
    'select rolcreaterole or rolsuper as may, current_database() as database from pg_roles where rolname = current_user',
  );
  const [own] = rows;
  if (!own?.may) return;
  await pool.query(`do $$ begin
    if not exists (select from pg_roles where rolname = '${user}') then create role "${user}" login password '${password}'; end if;
  exception when duplicate_object or unique_violation then null; end $$`);
  await pool.query(`grant usage on schema "${environment}" to "${user}";
    grant select on all tables in schema "${environment}" to "${user}";
    alter role "${user}" in database "${own.database}" set search_path = "${environment}"`);
}
