import { spawn, spawnSync } from 'node:child_process';
import { SetupError } from './say.mjs';

/** Runs a program to its end and shows what it prints; its failure becomes one sentence. */
export function run(command, args, { cwd, env, why } = {}) {
  const result = spawnSync(command, args, { cwd, env: { ...process.env, ...env }, stdio: 'inherit' });
  if (result.error || result.status !== 0)
    throw new SetupError(`${why ?? `${command} ${args.join(' ')}`} did not work (${result.error?.message ?? `exit ${result.status}`}).`);
}

/** Runs a program quietly and returns how it ended and what it printed. */
export function tryRun(command, args, options = {}) {
  const result = spawnSync(command, args, { encoding: 'utf8', ...options });
  return { ok: !result.error && result.status === 0, output: `${result.stdout ?? ''}${result.stderr ?? ''}`.trim() };
}

/** Runs a program beside this one and resolves with its exit code. */
export function runBeside(command, args, options = {}) {
  return new Promise((resolve) => {
    const child = spawn(command, args, { stdio: 'inherit', ...options, env: { ...process.env, ...options.env } });
    child.on('close', (code) => resolve(code ?? 1));
    child.on('error', () => resolve(1));
  });
}

export const isRoot = () => process.getuid?.() === 0;
