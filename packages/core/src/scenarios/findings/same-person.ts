import { describeLeg, findPlace } from './finding.ts';
import type { FindingRule } from './finding.ts';

/** *Same person as* where no one person can do both: another lane, or *never the same person* at once. */
export const samePerson: FindingRule = {
  rule: 'same-person',
  find: ({ chain }) =>
    chain.legs.flatMap(({ leg, index }) => {
      const other = chain.legs.find((candidate) => candidate.leg.id === leg.samePersonAs)?.leg;
      if (!other) return [];
      const isBarred = leg.otherPersonThan?.includes(other.id) === true || other.otherPersonThan?.includes(leg.id) === true;
      if (!isBarred && (leg.team ?? null) === (other.team ?? null)) return [];
      const why = isBarred ? 'and never by the same person' : 'but the two are in different lanes';
      return [
        {
          weight: isBarred ? ('error' as const) : ('warning' as const),
          leg: leg.id,
          message: `Leg ${index + 1} is to be done by the same person as ${describeLeg(chain, other.id)}, ${why}.`,
        },
      ];
    }),
  findWaysOut: (finding, chain) => {
    const leg = findPlace(chain, finding)?.leg.leg;
    if (!leg) return [];
    const change = {
      kind: 'change leg' as const,
      leg: leg.id,
      change: { samePersonAs: null },
      was: { samePersonAs: leg.samePersonAs ?? null },
    };
    return [{ kind: 'edit', label: 'Let anybody do it', edits: [change] }];
  },
};
