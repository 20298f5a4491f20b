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
};
