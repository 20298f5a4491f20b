import { findPlace } from './finding.ts';
import type { FindingRule } from './finding.ts';

export const againstTheMap: FindingRule = {
  rule: 'against-the-map',
  find: ({ chain }) =>
    chain.legs.flatMap(({ leg, index }) => {
      const before = chain.legs[index - 1]?.leg;
      if (!leg.place || !before?.place || leg.place.parent !== before.place.parent || leg.place.order >= before.place.order) return [];
      return [
        {
          weight: 'note' as const,
          leg: leg.id,
          message: `Leg ${index + 1} comes after ${before.title}, but on the map its activity comes first.`,
        },
      ];
    }),
  findWaysOut: (finding, chain) => {
    const place = findPlace(chain, finding);
    const before = place && chain.legs[place.leg.index - 1]?.leg;
    if (!before) return [];
    return [{ kind: 'edit', label: `Move it before ${before.title}`, edits: [{ kind: 'move leg', leg: finding.leg, before: before.id }] }];
  },
};
