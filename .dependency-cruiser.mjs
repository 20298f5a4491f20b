/** The arrows between packages point one way: core ← contracts ← formats, store ← web. */
const only = (name, from, allowed) => ({
  name,
  severity: 'error',
  from: { path: `^${from}/src` },
  to: { path: '^(packages|apps)/', pathNot: [`^${from}/`, ...allowed.map((folder) => `^${folder}/`)] },
});

/** Inside a package the rooms stand in one order, the nouns in the same everywhere, and arrows go only back. */
const NOUNS = [
  ...[
    'programmes',
    'map',
    'requirements',
    'personas',
    'tests',
    'screens',
    'doors',
    'scenarios',
    'defects',
    'cycles',
    'turns',
    'evidence',
    'runners',
    'window',
    'progress',
    'extracts',
    'boards',
  ],
  ...['imports', 'jobs', 'find'],
];
const inOrder = (name, folder, rooms) =>
  rooms.slice(0, -1).map((room, at) => ({
    name: `${name}-${room}-comes-before`,
    severity: 'error',
    from: { path: `^${folder}/${room}/`, pathNot: '\\.test\\.ts$' },
    to: { path: `^${folder}/(${rooms.slice(at + 1).join('|')})/` },
  }));

export default {
  forbidden: [
    only('core-stands-alone', 'packages/core', []),
    only('contracts-over-core', 'packages/contracts', ['packages/core']),
    only('formats-over-contracts', 'packages/formats', ['packages/core', 'packages/contracts']),
    only('store-over-contracts', 'packages/store', ['packages/core', 'packages/contracts']),
    only('doors-over-core', 'packages/doors', ['packages/core']),
    only('runner-over-core', 'apps/runner', ['packages/core', 'packages/contracts', 'packages/doors']),
    only('postbox-stands-alone', 'apps/postbox', []),
    only('millrace-stands-alone', 'apps/millrace', []),
    {
      name: 'core-is-pure',
      severity: 'error',
      from: { path: '^packages/core/src', pathNot: '\\.test\\.ts$' },
      to: { dependencyTypes: ['npm', 'npm-dev', 'core'] },
    },
    {
      name: 'browser-takes-types-of-contracts',
      comment: 'Zod stays on the server: the browser takes only types of the contracts, and nothing of the store.',
      severity: 'error',
      from: { path: '^apps/web/src/(features|ui|client)/.*\\.tsx?$', pathNot: ['\\.test\\.tsx?$'] },
      to: { path: '^packages/(contracts|store|formats|doors)/', dependencyTypesNot: ['type-only'] },
    },
    {
      name: 'browser-does-not-reach-into-the-server',
      comment: 'What only the server does lies under server/.',
      severity: 'error',
      from: { path: '^apps/web/src/(features|ui|client)/', pathNot: ['\\.test\\.tsx?$'] },
      to: { path: '^apps/web/src/server/' },
    },
    {
      name: 'features-do-not-reach-into-pages',
      severity: 'error',
      from: { path: '^apps/web/src/(features|ui|client|server)' },
      to: { path: '^apps/web/src/pages' },
    },
    ...inOrder('core', 'packages/core/src', ['values', 'time', 'tables', 'graph', 'rows', ...NOUNS]),
    ...inOrder('store', 'packages/store/src', ['schema', 'mails', 'runs', ...NOUNS, 'demo']),
    ...inOrder('contracts', 'packages/contracts/src', [...NOUNS]),
    { name: 'no-circles', severity: 'error', from: {}, to: { circular: true, viaOnly: { dependencyTypesNot: ['type-only'] } } },
    { name: 'no-orphans-in-core', severity: 'warn', from: { orphan: true, path: '^packages/core/src', pathNot: '\\.test\\.ts$' }, to: {} },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '(^|/)(dist|\\.astro|migrations)/' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.json' },
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'node', 'default', 'types'],
      extensions: ['.ts', '.tsx', '.mjs', '.js'],
    },
  },
};
