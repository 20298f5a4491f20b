import { findPlace } from './finding.ts';
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
  findWaysOut: (finding, chain) => {
    const leg = findPlace(chain, finding)?.leg.leg;
    if (!leg?.after) return [];
    const change = { kind: 'change leg' as const, leg: leg.id, change: { after: null }, was: { after: leg.after } };
    return [{ kind: 'edit', label: 'Let it wait for the leg before it', edits: [change] }];
  },
};
