import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { DATA } from './paths.mjs';
import { SetupError } from './say.mjs';

const FILE = () => path.join(DATA, 'running');

/** When a process began, in ticks since the machine started: numbers of processes are used again, also for this very one. */
function readStart(pid) {
  try {
    return readFileSync(`/proc/${pid}/stat`, 'utf8').split(') ')[1]?.split(' ')[19] ?? '';
  } catch {
    return '';
  }
}

/** Where the process answers that has the data folder now; null: none, or one that was ended without tidying up. */
function findHolder() {
  if (!existsSync(FILE())) return null;
  const [pid, port, start = ''] = readFileSync(FILE(), 'utf8').trim().split(' ');
  try {
    process.kill(Number(pid), 0);
  } catch {
    return null;
  }
  return readStart(pid) === start ? { port: Number(port) } : null;
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
  writeFileSync(FILE(), `${process.pid} ${port} ${readStart(process.pid)}`);
  return () => rmSync(FILE(), { force: true });
}
