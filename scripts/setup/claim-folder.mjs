import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { DATA } from './paths.mjs';
import { SetupError } from './say.mjs';

const FILE = () => path.join(DATA, 'running');

/** The process that has the data folder now, and where it answers; null: none. */
function findHolder() {
  if (!existsSync(FILE())) return null;
  const [pid, port] = readFileSync(FILE(), 'utf8').split(' ').map(Number);
  try {
    process.kill(pid, 0);
    return { pid, port };
  } catch {
    return null;
  }
}

/** Refuses while another start has the data folder: two would stop each other's database. A database of one's own is not claimed. */
export function requireFree() {
  const holder = process.env.DATABASE_URL ? null : findHolder();
  if (holder)
    throw new SetupError(
      `Kindred Baton runs already with the data in ${DATA}, at http://127.0.0.1:${holder.port}. Stop it first, or name another folder: KINDRED_BATON_DATA=/another/folder`,
    );
}

/** Claims the data folder for this process; answers how to let it go. */
export function claimFolder(port) {
  requireFree();
  if (process.env.DATABASE_URL) return () => undefined;
  mkdirSync(DATA, { recursive: true });
  writeFileSync(FILE(), `${process.pid} ${port}`);
  return () => rmSync(FILE(), { force: true });
}
