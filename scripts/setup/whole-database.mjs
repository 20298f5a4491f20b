import { createWriteStream } from 'node:fs';
import { spawn } from 'node:child_process';
import { pipeline } from 'node:stream/promises';
import path from 'node:path';
import { requirePostgres } from './debian.mjs';
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

/** Runs one of PostgreSQL's programs with files as its input and output; its failure becomes a sentence. */
async function runTool(name, args, { from, to, why }) {
  const child = spawn(path.join(requirePostgres(), name), args, { stdio: [from ? 'pipe' : 'ignore', 'pipe', 'pipe'] });
  let problem = '';
  child.stderr.on('data', (piece) => (problem = `${problem}${piece}`.slice(-2_000)));
  const ended = new Promise((resolve, reject) => {
    child.on('error', reject);
    child.on('close', resolve);
  });
  await Promise.all([
    from ? pipeline(from, child.stdin).catch(() => undefined) : undefined,
    to ? pipeline(child.stdout, to) : child.stdout.resume(),
  ]);
  if ((await ended) !== 0) throw new SetupError(`${why}: ${problem.trim().split('\n').slice(-2).join(' ')}`);
}

/** The whole database in one file, in PostgreSQL's own archive format. */
export const dump = (url, file) =>
  runTool('pg_dump', ['--format=custom', '--no-owner', '--dbname', url], { to: createWriteStream(file), why: 'The backup was not made' });

const EMPTY = 'drop schema public cascade; drop schema if exists drizzle cascade; create schema public;\n';

export const empty = (url) => ask(url, EMPTY);

/** Puts the file in the place of all that the database holds: everything or nothing. */
export async function load(url, file) {
  const { PassThrough } = await import('node:stream');
  const script = new PassThrough();
  script.write(EMPTY);
  const why = 'The file was not restored; the database is as it was';
  await Promise.all([
    runTool('pg_restore', ['--no-owner', '--file=-', file], {
      to: script,
      why: `${file} is no backup of Kindred Baton, or is broken`,
    }).catch((error) => {
      // Half a script must not be run to its end.
      script.destroy();
      throw error;
    }),
    runTool('psql', ['-X', '-q', '--single-transaction', '--set=ON_ERROR_STOP=1', '--dbname', url], { from: script, why }),
  ]);
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
