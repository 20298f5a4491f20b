import { availableParallelism } from 'node:os';
import { defineConfig } from 'vitest/config';

/** A database or a thread is waited for half of the time: two files at once even on two cores. Those in a browser come after them, one by one. */
const beside = { maxWorkers: Math.max(2, availableParallelism() - 1), sequence: { groupOrder: 0 } };
const oneByOne = { fileParallelism: false, sequence: { groupOrder: 1 } };

export default defineConfig({
  test: {
    reporters: ['default'],
    projects: [
      {
        test: {
          ...beside,
          name: 'unit',
          include: ['packages/{core,contracts,formats,doors}/src/**/*.test.ts', 'apps/*/src/**/*.test.ts'],
          exclude: ['**/*.database.test.ts'],
          // A slow machine is no failure; how fast it is, npm run bench says.
          testTimeout: 30_000,
        },
      },
      {
        test: {
          ...beside,
          name: 'screens',
          include: ['apps/web/src/**/*.test.tsx'],
          environment: 'jsdom',
          testTimeout: 30_000,
        },
      },
      {
        test: {
          ...beside,
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
          ...oneByOne,
          name: 'end-to-end',
          include: ['tests/end-to-end/**/*.test.ts'],
          globalSetup: ['tests/support/template-databases.ts', 'tests/support/web-server.ts'],
          testTimeout: 180_000,
          hookTimeout: 120_000,
        },
      },
      {
        test: {
          ...oneByOne,
          name: 'set-up',
          include: ['tests/set-up/**/*.test.ts'],
          testTimeout: 180_000,
          hookTimeout: 120_000,
        },
      },
    ],
  },
});
