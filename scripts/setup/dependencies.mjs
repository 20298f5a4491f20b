import { createHash } from 'node:crypto';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { ROOT } from './paths.mjs';
import { run } from './run.mjs';
import { SetupError, say } from './say.mjs';

/** Installs the npm packages when there are none, or when the lock file is another than the one they were installed from. */
export function installDependencies() {
  const [major, minor] = process.versions.node.split('.').map(Number);
  if (major < 20 || (major === 20 && minor < 11))
    throw new SetupError(`Kindred Baton needs Node.js 20.11 or newer; this is ${process.versions.node}.`);
  const lock = readFileSync(path.join(ROOT, 'package-lock.json'));
  const fingerprint = createHash('sha256').update(lock).digest('hex');
  const marker = path.join(ROOT, 'node_modules/.kindred-baton');
  if (existsSync(marker) && readFileSync(marker, 'utf8') === fingerprint) return;
  say('Installing packages (about two minutes the first time) …');
  run('npm', ['ci', '--no-audit', '--no-fund'], { cwd: ROOT, why: 'Installing the npm packages' });
  writeFileSync(marker, fingerprint);
}
