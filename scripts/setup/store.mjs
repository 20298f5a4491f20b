import path from 'node:path';
import { DATA, ROOT } from './paths.mjs';
import { tryRun } from './run.mjs';
import { SetupError, say } from './say.mjs';
import { startCluster } from './cluster.mjs';

/** The database to use: the one named in DATABASE_URL, else a private cluster in the data folder. */
export async function openDatabase(name) {
  if (process.env.DATABASE_URL) return { url: process.env.DATABASE_URL, stop: () => undefined };
  const cluster = await startCluster(DATA);
  cluster.ensureDatabase(name);
  return { url: cluster.url(name), stop: cluster.stop };
}

/** Migrations, and the demo where the database is empty. */
export function prepareStore(url) {
  const script = path.join(ROOT, 'apps/web/scripts/prepare-store.ts');
  const prepared = tryRun(process.execPath, ['--import', 'tsx', script], { cwd: ROOT, env: { ...process.env, DATABASE_URL: url } });
  if (!prepared.ok)
    throw new SetupError(
      `The database at ${url.replace(/:[^:@/]*@/, ':…@')} cannot be prepared:\n${prepared.output.split('\n').slice(0, 12).join('\n')}`,
    );
  if (prepared.output) say(prepared.output);
}
