import { FIELD_TYPE_WORDS } from '../../values/field.ts';
import { describeLeg } from './finding.ts';
import type { FindingRule } from './finding.ts';

export const typesDiffer: FindingRule = {
  rule: 'types-differ',
  find: ({ chain }) =>
    chain.legs.flatMap(({ leg, index, needs }) =>
      needs.flatMap(({ need, source }) =>
        source.kind === 'mismatch'
          ? [
              {
                weight: 'error' as const,
                leg: leg.id,
                value: need.name,
                message:
                  `Leg ${index + 1} needs ${need.name} as ${FIELD_TYPE_WORDS[need.type]}, but ${describeLeg(chain, source.leg)} ` +
                  `gives it as ${FIELD_TYPE_WORDS[source.field.type]}. Change one of the two types.`,
              },
            ]
          : [],
      ),
    ),
};
