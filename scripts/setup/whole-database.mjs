import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { requirePostgres } from './debian.mjs';
import { tryRun } from './run.mjs';
import { SetupError } from './say.mjs';

/** What a database holds, asked in its own words. */
async function ask(url, text) {
  const { default: pg } = await import('pg');
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  try {
    return (await client.query(text)).rows;
  } finally {
    await client.end();
  }
}

/** The programmes of a database that are not the demo; refuses a database that is somebody else's. */
export async function listProgrammes(url) {
  const tables = await ask(url, "select tablename from pg_tables where schemaname = 'public' order by 1");
  if (tables.length === 0) return [];
  if (!tables.some(({ tablename }) => tablename === 'programmes'))
    throw new SetupError(
      `This is no database of Kindred Baton: it holds ${tables
        .slice(0, 5)
        .map(({ tablename }) => tablename)
        .join(', ')} … Nothing was changed.`,
    );
  return ask(
    url,
    `select p.key, p.name, (select count(*)::int from members m where m.programme_id = p.id) as people,
       (select count(*)::int from turns t where t.programme_id = p.id) as turns
     from programmes p where not p.is_demo order by p.key`,
  );
}

/** Refuses to lose programmes that were not named: `--yes key` for each, or `--yes key,key`. */
export async function requireLosable(url, command, args) {
  const named = new Set(args.flatMap((word, index) => (args[index - 1] === '--yes' ? word.split(',') : [])));
  const kept = (await listProgrammes(url)).filter(({ key }) => !named.has(key));
  if (kept.length === 0) return;
  const lines = kept.map(({ key, name, people, turns }) => `  ${name} (/${key}): ${people} people, ${turns} turns`);
  throw new SetupError(
    `This would delete more than the demo:\n${lines.join('\n')}\nMake a backup first (npm run backup). To delete it all the same: npm run ${command} -- --yes ${kept.map(({ key }) => key).join(',')}`,
  );
}

/** Runs one of PostgreSQL's programs to its end; its failure becomes a sentence. */
function runTool(name, args, why) {
  const ran = tryRun(path.join(requirePostgres(), name), args);
  if (!ran.ok) throw new SetupError(`${why}: ${ran.output.split('\n').slice(-2).join(' ')}`);
}

/** The whole database in one file, in PostgreSQL's own archive format. */
export const dump = (url, file) =>
  runTool('pg_dump', ['--format=custom', '--no-owner', `--file=${file}`, '--dbname', url], 'The backup was not made');

const EMPTY = 'drop schema public cascade; drop schema if exists drizzle cascade; create schema public;';

export const empty = (url) => ask(url, EMPTY);

/**
 * Puts the file in the place of all that the database holds: everything or nothing. The archive is read to its end before anything is touched: of one
 * that breaks off in the middle, the half must never be taken for the whole.
 */
export function load(url, file) {
  const folder = mkdtempSync(path.join(tmpdir(), 'kindred-baton-restore-'));
  const script = path.join(folder, 'all.sql');
  try {
    runTool('pg_restore', ['--no-owner', `--file=${script}`, file], `${file} is no backup of Kindred Baton, or is broken`);
    const args = ['-X', '-q', '--single-transaction', '--set=ON_ERROR_STOP=1', '--dbname', url, '-c', EMPTY, '-f', script];
    runTool('psql', args, 'The file was not restored; the database is as it was');
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

/** A fingerprint of every row of every table. */
export async function fingerprint(url) {
  const tables = await ask(
    url,
    "select schemaname || '.' || quote_ident(tablename) as name from pg_tables where schemaname in ('public', 'drizzle') order by 1",
  );
  const prints = {};
  for (const { name } of tables)
    [{ print: prints[name] }] = await ask(
      url,
      `select count(*) || ' ' || md5(coalesce(string_agg(md5(t::text), '' order by md5(t::text)), '')) as print from ${name} t`,
    );
  return prints;
}

/** Makes a database beside another, lets it be used, and takes it away. */
export async function withSpare(url, use) {
  const name = `kindred_baton_check_${process.pid}`;
  const spare = new URL(url);
  spare.pathname = `/${name}`;
  await ask(url, `create database ${name}`);
  try {
    return await use(spare.href);
  } finally {
    await ask(url, `drop database if exists ${name} with (force)`);
  }
}
