import type { FindingRule } from './finding.ts';

export const retiredTest: FindingRule = {
  rule: 'retired-test',
  find: ({ chain }) =>
    chain.legs
      .filter(({ leg }) => leg.isRetired)
      .map(({ leg, index }) => ({
        weight: 'warning' as const,
        leg: leg.id,
        message: `The test of leg ${index + 1}, ${leg.title}, is retired. It still runs where it was pinned; put another test in its place.`,
      })),
  findWaysOut: () => [{ kind: 'look', label: 'Put another test in its place', look: 'another test' }],
};
