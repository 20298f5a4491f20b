import { randomUUID } from 'node:crypto';
import { mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';

/** The folder of a runner: what was not sent yet, and who it is. */
export interface RunnerFolder {
  readonly path: string;
  /** Stays the same when the runner is started again here, so that the server knows it. */
  readonly instance: string;
  readonly letGo: () => void;
}

/** Takes a folder for this process. Throws a sentence where another runner works in it. */
export function claimFolder(folder: string): RunnerFolder {
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  const pidFile = path.join(folder, 'pid');
  const pid = Number(readText(pidFile) ?? 0);
  if (pid > 0 && pid !== process.pid && isAlive(pid))
    throw new Error(`Another runner works in ${folder} already (process ${pid}). Give this one a folder of its own.`);
  writeFileSync(pidFile, String(process.pid));
  const instanceFile = path.join(folder, 'instance');
  const known = readText(instanceFile)?.trim();
  const instance = known ?? randomUUID();
  if (known === undefined) writeFileSync(instanceFile, instance);
  return { path: folder, instance, letGo: () => rmSync(pidFile, { force: true }) };
}

function readText(file: string): string | undefined {
  try {
    return readFileSync(file, 'utf8') || undefined;
  } catch (error) {
    if (error instanceof Error && 'code' in error && error.code === 'ENOENT') return undefined;
    throw error;
  }
}

function isAlive(pid: number): boolean {
  try {
    process.kill(pid, 0);
    return true;
  } catch (error) {
    return error instanceof Error && 'code' in error && error.code === 'EPERM';
  }
}
