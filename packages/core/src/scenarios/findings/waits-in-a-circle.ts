import type { FindingRule } from './finding.ts';

export const waitsInACircle: FindingRule = {
  rule: 'waits-in-a-circle',
  find: ({ chain }) =>
    chain.cyclic.flatMap((index) => {
      const wired = chain.legs[index];
      return wired
        ? [
            {
              weight: 'error' as const,
              leg: wired.leg.id,
              message: `Leg ${index + 1} can never start: it waits for legs that wait for it.`,
            },
          ]
        : [];
    }),
};
