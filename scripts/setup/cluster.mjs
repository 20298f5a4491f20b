import { createHash, randomInt } from 'node:crypto';
import { chownSync, existsSync, mkdirSync, readFileSync, rmSync, statfsSync, writeFileSync } from 'node:fs';
import net from 'node:net';
import path from 'node:path';
import { requirePostgres } from './debian.mjs';
import { isRoot, tryRun } from './run.mjs';
import { SetupError, say } from './say.mjs';

const NEEDED_BYTES = 300 * 1024 * 1024;
const USER = 'kindred_baton';

/**
 * A private PostgreSQL cluster on loopback in a data folder. As root its server runs as the user postgres. Answers
 * { url(database), ensureDatabase(name), stop() }; a cluster that runs already is used as it is, and then stop() leaves it running.
 */
export async function startCluster(dataFolder, { isThrowaway = false } = {}) {
  const bin = requirePostgres();
  const folder = placeFolder(dataFolder);
  const cluster = { bin, folder, pgdata: path.join(folder, 'postgres'), log: path.join(folder, 'postgres.log') };
  if (!existsSync(path.join(cluster.pgdata, 'PG_VERSION'))) createCluster(cluster);
  const port = await choosePort(cluster);
  const wasRunning = isOurs(cluster, port);
  if (!wasRunning) await launch(cluster, port, isThrowaway ? UNSAFE : '');
  return {
    url: (database) => `postgresql://${USER}@127.0.0.1:${port}/${database}`,
    ensureDatabase: (database) => ensureDatabase(cluster, port, database),
    stop: () => wasRunning || asServer(cluster, 'pg_ctl', ['-D', cluster.pgdata, '-m', 'fast', '-w', 'stop']),
  };
}

/** As root the server's user must be able to enter every folder above; where it cannot, /var/tmp serves. */
function placeFolder(wanted) {
  makeFolder(wanted);
  if (!isRoot() || tryRun('runuser', ['-u', 'postgres', '--', 'test', '-x', wanted], { cwd: '/' }).ok) return own(wanted);
  const other = path.join('/var/tmp', `kindred-baton-${createHash('sha256').update(wanted).digest('hex').slice(0, 12)}`);
  makeFolder(other);
  return own(other);
}

function makeFolder(folder) {
  try {
    mkdirSync(folder, { recursive: true });
    const { bavail, bsize } = statfsSync(folder);
    if (bavail * bsize < NEEDED_BYTES)
      throw new SetupError(
        `The disk of ${folder} is nearly full: ${Math.round((bavail * bsize) / 1_048_576)} MB are free, 300 MB are needed.`,
      );
  } catch (error) {
    if (error instanceof SetupError) throw error;
    throw new SetupError(`The data folder ${folder} cannot be made (${error.code ?? error.message}). Name another in KINDRED_BATON_DATA.`);
  }
}

function own(folder) {
  if (isRoot()) {
    const id = (flag) => Number(tryRun('id', [flag, 'postgres']).output);
    chownSync(folder, id('-u'), id('-g'));
  }
  return folder;
}

function asServer({ bin }, program, args) {
  const file = path.join(bin, program);
  return isRoot() ? tryRun('runuser', ['-u', 'postgres', '--', file, ...args], { cwd: '/' }) : tryRun(file, args, { cwd: '/' });
}

function createCluster(cluster) {
  say('Making the database …');
  rmSync(cluster.pgdata, { recursive: true, force: true });
  const made = asServer(cluster, 'initdb', [
    '-D',
    cluster.pgdata,
    '-A',
    'trust',
    '-U',
    USER,
    '-E',
    'UTF8',
    '--locale=C.UTF-8',
    '--no-sync',
  ]);
  if (!made.ok)
    throw new SetupError(`The database could not be made in ${cluster.pgdata}:\n${made.output.split('\n').slice(-3).join('\n')}`);
}

async function choosePort(cluster) {
  const file = path.join(cluster.folder, 'port');
  const known = existsSync(file) ? Number(readFileSync(file, 'utf8')) : Number(process.env.KINDRED_BATON_PG_PORT ?? 0);
  if (known > 0 && (isOurs(cluster, known) || (await isFree(known)))) return remember(file, known);
  for (let tries = 0; tries < 50; tries += 1) {
    const port = randomInt(20_000, 45_000);
    if (await isFree(port)) return remember(file, port);
  }
  throw new SetupError('No free port was found for the database.');
}

function remember(file, port) {
  writeFileSync(file, String(port));
  return port;
}

export function isFree(port) {
  return new Promise((resolve) => {
    const server = net.createServer();
    server.once('error', () => resolve(false));
    server.listen({ port, host: '127.0.0.1' }, () => server.close(() => resolve(true)));
  });
}

const sql = (cluster, port, database, text) =>
  tryRun(path.join(cluster.bin, 'psql'), ['-h', '127.0.0.1', '-p', String(port), '-U', USER, '-d', database, '-XAtc', text]);

/** A stranger on the port is not ours: the data folder is compared. */
function isOurs(cluster, port) {
  const asked = sql(cluster, port, 'postgres', 'show data_directory');
  return asked.ok && asked.output === cluster.pgdata;
}

/** For tests: what a power cut would cost does not matter, and a slow disk does not either. */
const UNSAFE = ' -c fsync=off -c full_page_writes=off -c synchronous_commit=off';

async function launch(cluster, port, more) {
  const options = `-p ${port} -c listen_addresses=127.0.0.1 -c unix_socket_directories='' -c max_connections=200${more}`;
  for (let tries = 0; tries < 3; tries += 1) {
    const started = asServer(cluster, 'pg_ctl', ['-D', cluster.pgdata, '-l', cluster.log, '-w', '-t', '30', '-o', options, 'start']);
    if (started.ok || isOurs(cluster, port)) return;
    await new Promise((resolve) => setTimeout(resolve, 1_000));
  }
  const log = existsSync(cluster.log) ? readFileSync(cluster.log, 'utf8').trim().split('\n').slice(-3).join('\n') : '';
  throw new SetupError(`The database in ${cluster.pgdata} does not start. Its log says:\n${log}\nTo begin anew, remove ${cluster.folder}.`);
}

function ensureDatabase(cluster, port, database) {
  const there = sql(cluster, port, 'postgres', `select 1 from pg_database where datname = '${database}'`);
  if (there.output !== '1') sql(cluster, port, 'postgres', `create database ${database}`);
}
