import type { FindingRule } from './finding.ts';

export const openLeg: FindingRule = {
  rule: 'open-leg',
  find: ({ chain, isInOpenCycle }) =>
    chain.legs
      .filter(({ leg }) => leg.isOpen)
      .map(({ leg, index }) => ({
        weight: isInOpenCycle ? ('error' as const) : ('note' as const),
        leg: leg.id,
        message: `Leg ${index + 1} is open: its test is still to be written.`,
      })),
  findWaysOut: () => [{ kind: 'look', label: 'Find a test that fits', look: 'tests that fit' }],
};
