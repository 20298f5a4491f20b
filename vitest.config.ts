import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    reporters: ['default'],
    projects: [
      {
        test: {
          name: 'unit',
          include: ['packages/{core,contracts,formats,doors}/src/**/*.test.ts', 'apps/*/src/**/*.test.ts'],
          exclude: ['**/*.database.test.ts'],
          // A slow machine is no failure; how fast it is, npm run bench says.
          testTimeout: 30_000,
        },
      },
      {
        test: {
          name: 'screens',
          include: ['apps/web/src/**/*.test.tsx'],
          environment: 'jsdom',
          testTimeout: 30_000,
        },
      },
      {
        test: {
          name: 'store',
          include: ['packages/store/src/**/*.test.ts', '{apps,packages}/*/src/**/*.database.test.ts', 'tests/practice/**/*.test.ts'],
          globalSetup: ['tests/support/template-databases.ts'],
          // Sixty acts at random, a whole demo laid anew: a slow machine is no failure.
          testTimeout: 120_000,
          hookTimeout: 120_000,
        },
      },
      {
        test: {
          name: 'end-to-end',
          include: ['tests/end-to-end/**/*.test.ts'],
          globalSetup: ['tests/support/template-databases.ts', 'tests/support/web-server.ts'],
          testTimeout: 180_000,
          hookTimeout: 120_000,
          fileParallelism: false,
        },
      },
      {
        test: {
          name: 'set-up',
          include: ['tests/set-up/**/*.test.ts'],
          testTimeout: 180_000,
          hookTimeout: 120_000,
          fileParallelism: false,
        },
      },
    ],
  },
});
