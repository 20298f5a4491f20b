import { describeLeg, findPlace, toWireEdit } from './finding.ts';
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
  findWaysOut: (finding, chain) => {
    const place = findPlace(chain, finding);
    const source = place?.need?.source;
    if (!place?.need || source?.kind !== 'leg') return [];
    const { need } = place.need;
    return [source.leg, ...source.passedOver].map((id, at) => {
      const number = chain.legs.findIndex(({ leg }) => leg.id === id) + 1;
      return {
        kind: 'edit' as const,
        label: at === 0 ? `Keep leg ${number}` : `Take it from leg ${number}`,
        edits: [toWireEdit(place.leg, need, { kind: 'leg', leg: id, gives: source.field.name })],
      };
    });
  },
};
