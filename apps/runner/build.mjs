/** Bundles the runner into one file, which runs by itself wherever there are Node.js and Chromium (npm pack makes a package of it). */
import { build } from 'esbuild';

await build({
  entryPoints: [new URL('src/main.ts', import.meta.url).pathname],
  outfile: new URL('dist/runner.mjs', import.meta.url).pathname,
  bundle: true,
  platform: 'node',
  format: 'esm',
  target: 'node20',
  // Some of what is bundled asks for modules in the old way.
  banner: {
    js: "#!/usr/bin/env node\nimport { createRequire as makeRequire } from 'node:module';\nconst require = makeRequire(import.meta.url);",
  },
  logLevel: 'warning',
});
