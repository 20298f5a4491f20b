import type { FindingRule } from './finding.ts';

export const neverGiven: FindingRule = {
  rule: 'never-given',
  find: ({ chain }) =>
    chain.legs.flatMap(({ leg, index, needs }) =>
      needs
        .filter(({ source, need }) => need.required !== false && (source.kind === 'none' || source.kind === 'lost'))
        .map(({ need, source }) => ({
          weight: 'error' as const,
          leg: leg.id,
          value: need.name,
          message:
            source.kind === 'lost'
              ? `Leg ${index + 1} takes ${need.name} from something that is no longer there. Wire it again.`
              : `Leg ${index + 1} needs ${need.name}, and nothing gives it. Add a column for it, or a leg that gives it.`,
        })),
    ),
};
