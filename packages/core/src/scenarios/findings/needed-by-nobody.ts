import { toNameKey } from '../../values/field.ts';
import type { FindingRule } from './finding.ts';

export const neededByNobody: FindingRule = {
  rule: 'needed-by-nobody',
  find: ({ chain }) => {
    const taken = new Set(
      chain.legs.flatMap(({ needs }) =>
        needs.flatMap(({ source }) => (source.kind === 'leg' ? [`${source.leg} ${toNameKey(source.field.name)}`] : [])),
      ),
    );
    return chain.legs.flatMap(({ leg, index }) =>
      leg.gives
        .filter((field) => !taken.has(`${leg.id} ${toNameKey(field.name)}`))
        .map((field) => ({
          weight: 'note' as const,
          leg: leg.id,
          value: field.name,
          message: `Leg ${index + 1} gives ${field.name}, and no later leg needs it.`,
        })),
    );
  },
};
