import path from 'node:path';
import { DATA, ROOT } from './paths.mjs';
import { tryRun } from './run.mjs';
import { SetupError, say } from './say.mjs';
import { startCluster } from './cluster.mjs';

/**
 * The databases to use: that named in DATABASE_URL, else a private cluster in the data folder. The practice application has one of its own beside
 * it; where DATABASE_URL is named it runs only when MILLRACE_DATABASE_URL is too.
 */
export async function openDatabase(name) {
  if (process.env.DATABASE_URL) {
    await requireAnswer(process.env.DATABASE_URL);
    return { url: process.env.DATABASE_URL, practiceUrl: process.env.MILLRACE_DATABASE_URL, stop: () => undefined };
  }
  const cluster = await startCluster(DATA);
  cluster.ensureDatabase(name);
  cluster.ensureDatabase('millrace');
  return { url: cluster.url(name), practiceUrl: cluster.url('millrace'), stop: cluster.stop };
}

const hidden = (url) => url.replace(/:[^:@/]*@/, ':…@');

const REASONS = {
  ECONNREFUSED: 'nothing answers there; is it running, and is the port right?',
  ENOTFOUND: 'there is no such machine; is the name right?',
  EAI_AGAIN: 'the name of the machine cannot be looked up.',
  '28P01': 'it does not take this name and password.',
  28000: 'it does not let this name in.',
  '3D000': 'it has no database of this name; make one first.',
};
const PATIENCE_MS = 10_000;

/** A database that cannot be reached is a sentence. */
async function requireAnswer(url) {
  const { default: pg } = await import('pg');
  try {
    const client = new pg.Client({ connectionString: url, connectionTimeoutMillis: PATIENCE_MS });
    await client.connect();
    await client.end();
  } catch (error) {
    throw new SetupError(`The database in DATABASE_URL (${hidden(url)}) cannot be used: ${REASONS[error.code] ?? error.message}`);
  }
}

/** Migrations, and the demo where the database is empty. */
export function prepareStore(url, env = {}) {
  const script = path.join(ROOT, 'apps/web/scripts/prepare-store.ts');
  const prepared = tryRun(process.execPath, ['--import', 'tsx', script], {
    cwd: ROOT,
    env: { ...process.env, ...env, DATABASE_URL: url },
  });
  if (!prepared.ok)
    throw new SetupError(`The database at ${hidden(url)} cannot be prepared:\n${prepared.output.split('\n').slice(0, 12).join('\n')}`);
  if (prepared.output) say(prepared.output);
}
