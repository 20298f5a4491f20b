import { existsSync, mkdirSync, readdirSync } from 'node:fs';
import path from 'node:path';
import { isRoot, run, tryRun } from './run.mjs';
import { SetupError, say } from './say.mjs';

/** Installs a Debian package as root; otherwise says what to install. */
function installPackage(name, what) {
  const command = `apt-get install -y --no-install-recommends ${name}`;
  if (!isRoot() || !tryRun('apt-get', ['--version']).ok) throw new SetupError(`${what} is missing. Install it with: sudo ${command}`);
  say(`Installing ${what} …`);
  const env = { DEBIAN_FRONTEND: 'noninteractive' };
  tryRun('apt-get', ['update'], { env: { ...process.env, ...env } });
  run('apt-get', ['install', '-y', '--no-install-recommends', name], { env, why: `Installing ${what}` });
}

const POSTGRES_HOME = '/usr/lib/postgresql';

function findPostgres() {
  if (process.env.KINDRED_BATON_PG_BIN) return process.env.KINDRED_BATON_PG_BIN;
  if (!existsSync(POSTGRES_HOME)) return undefined;
  const versions = readdirSync(POSTGRES_HOME).sort((a, b) => Number(b) - Number(a));
  return versions.map((version) => path.join(POSTGRES_HOME, version, 'bin')).find((bin) => existsSync(path.join(bin, 'initdb')));
}

/** The folder with PostgreSQL's server programs, installed where missing. */
export function requirePostgres() {
  const found = findPostgres();
  if (found) return found;
  installPackage('postgresql', 'PostgreSQL');
  const installed = findPostgres();
  if (!installed) throw new SetupError('PostgreSQL was installed, but its server programs are not under /usr/lib/postgresql.');
  return installed;
}

/** The browser that prints PDF, installed where missing and possible; undefined where it is neither. */
export function findChromium() {
  try {
    return requireChromium();
  } catch (error) {
    if (error instanceof SetupError) return undefined;
    throw error;
  }
}

/** The browser for tests and pictures, installed where missing. */
export function requireChromium() {
  const find = () => [process.env.CHROMIUM_PATH, '/usr/bin/chromium', '/usr/bin/chromium-browser'].find((file) => file && existsSync(file));
  const found = find();
  if (found) return found;
  installPackage('chromium', 'Chromium');
  const installed = find();
  if (!installed) throw new SetupError('Chromium was installed, but is not at /usr/bin/chromium. Name it in CHROMIUM_PATH.');
  return installed;
}

/** Checks XML against a schema, in tests; installed where missing. */
export function requireXmllint() {
  if (!existsSync('/usr/bin/xmllint')) installPackage('libxml2-utils', 'xmllint');
}

/** Example workbooks of readxl, in tests: the files alone, out of Debian's package, without R. Answers their folder. */
export function requireReadxlExamples(folder) {
  const examples = path.join(folder, 'usr/lib/R/site-library/readxl/extdata');
  if (existsSync(path.join(examples, 'deaths.xlsx'))) return examples;
  say('Fetching example workbooks …');
  mkdirSync(folder, { recursive: true });
  const fetch = () => tryRun('apt-get', ['download', 'r-cran-readxl'], { cwd: folder });
  if (!fetch().ok && isRoot()) tryRun('apt-get', ['update']);
  const found = () => readdirSync(folder).find((file) => file.endsWith('.deb'));
  if (!found()) fetch();
  const file = found();
  if (!file || !tryRun('dpkg-deb', ['-x', file, '.'], { cwd: folder }).ok)
    throw new SetupError(
      `The Debian package r-cran-readxl could not be fetched into ${folder}. Run there: apt-get download r-cran-readxl && dpkg-deb -x *.deb .`,
    );
  return examples;
}
