/** npm test: the rest of the set-up, then everything: types, lint, rules, unit, store on a real PostgreSQL, end to end. */
import path from 'node:path';
import { requireChromium, requireReadxlExamples, requireXmllint } from './setup/debian.mjs';
import { installDependencies } from './setup/dependencies.mjs';
import { DATA, ROOT } from './setup/paths.mjs';
import { runBeside } from './setup/run.mjs';
import { SetupError, runMain, say } from './setup/say.mjs';

/** Checks that need no database, beside the build and the tests that do. */
const CHECKS = ['check:format', 'check:lint', 'check:arrows', 'check:unused', 'check:rooms', 'check:types'];

await runMain(async () => {
  installDependencies();
  const { buildRunner, buildWeb } = await import('./setup/build.mjs');
  const { startCluster } = await import('./setup/cluster.mjs');
  const chromium = requireChromium();
  requireXmllint();
  const readxl = requireReadxlExamples(path.join(DATA, 'readxl'));
  const failed = [];
  buildWeb();
  buildRunner();
  const checks = (async () => {
    for (const check of CHECKS) if ((await runBeside('npm', ['run', '--silent', check], { cwd: ROOT })) !== 0) failed.push(check);
  })();
  const cluster = await startCluster(path.join(DATA, 'test'), { isThrowaway: true });
  try {
    const env = {
      KINDRED_BATON_TEST_SERVER: cluster.url('postgres'),
      CHROMIUM_PATH: chromium,
      KINDRED_BATON_READXL: readxl,
      NODE_ENV: 'test',
      LOG_LEVEL: 'error',
    };
    const vitest = path.join(ROOT, 'node_modules/vitest/vitest.mjs');
    if ((await runBeside(process.execPath, [vitest, 'run', ...process.argv.slice(2)], { cwd: ROOT, env })) !== 0) failed.push('vitest');
    await checks;
  } finally {
    cluster.stop();
  }
  if (failed.length > 0) throw new SetupError(`Not in order: ${failed.join(', ')}.`);
  say('\nAll is in order.');
});
