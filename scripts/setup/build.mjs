import { createHash } from 'node:crypto';
import { existsSync, readFileSync, readdirSync, statSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { ROOT, WEB } from './paths.mjs';
import { run } from './run.mjs';
import { say } from './say.mjs';

const SOURCES = [
  'apps/web/src',
  'apps/web/public',
  'apps/web/astro.config.mjs',
  'apps/web/vite.aside.config.mjs',
  'packages/core/src',
  'packages/contracts/src',
  'packages/formats/src',
  'packages/store/src',
  'package-lock.json',
];

/** Builds the web application when its sources are others than those it was built from. */
export function buildWeb() {
  const fingerprint = SOURCES.reduce((hash, source) => hashTree(hash, path.join(ROOT, source)), createHash('sha256')).digest('hex');
  const marker = path.join(WEB, 'dist/.fingerprint');
  if (existsSync(marker) && readFileSync(marker, 'utf8') === fingerprint) return;
  say('Building the application …');
  run('npm', ['run', 'build', '--silent', '--workspace', 'apps/web'], {
    cwd: ROOT,
    env: { ASTRO_TELEMETRY_DISABLED: '1', NODE_ENV: 'production' },
    why: 'Building the application',
  });
  writeFileSync(marker, fingerprint);
}

/** Bundles the runner; a second, so that nothing is remembered of it. */
export function buildRunner() {
  run('npm', ['run', 'build', '--silent', '--workspace', 'apps/runner'], { cwd: ROOT, why: 'Building the runner' });
}

function hashTree(hash, file) {
  if (!statSync(file).isDirectory()) return file.endsWith('.test.ts') ? hash : hash.update(file).update(readFileSync(file));
  return readdirSync(file)
    .sort()
    .reduce((sum, name) => hashTree(sum, path.join(file, name)), hash);
}
