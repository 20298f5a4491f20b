import { describeLeg } from './finding.ts';
import type { FindingRule } from './finding.ts';

export const twoGivers: FindingRule = {
  rule: 'two-givers',
  find: ({ chain }) =>
    chain.legs.flatMap(({ leg, index, needs }) =>
      needs.flatMap(({ need, source }) =>
        source.kind === 'leg' && source.passedOver.length > 0
          ? [
              {
                weight: 'warning' as const,
                leg: leg.id,
                value: need.name,
                message:
                  `Leg ${index + 1} takes ${need.name} from ${describeLeg(chain, source.leg)}; ` +
                  `${source.passedOver.map((id) => describeLeg(chain, id)).join(' and ')} also gives it.`,
              },
            ]
          : [],
      ),
    ),
};
