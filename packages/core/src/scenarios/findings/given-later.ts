import { describeLeg } from './finding.ts';
import type { FindingRule } from './finding.ts';

export const givenLater: FindingRule = {
  rule: 'given-later',
  find: ({ chain }) =>
    chain.legs.flatMap(({ leg, index, needs }) =>
      needs.flatMap(({ need, source }) =>
        source.kind === 'later'
          ? [
              {
                weight: 'error' as const,
                leg: leg.id,
                value: need.name,
                message: `Leg ${index + 1} needs ${need.name}, but it is given only by ${describeLeg(chain, source.leg)}. Move that leg before it.`,
              },
            ]
          : [],
      ),
    ),
};
