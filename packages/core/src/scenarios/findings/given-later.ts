import { describeLeg, findPlace } from './finding.ts';
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
  findWaysOut: (finding, chain) => {
    const place = findPlace(chain, finding);
    const source = place?.need?.source;
    const giver = source?.kind === 'later' ? chain.legs.find(({ leg }) => leg.id === source.leg) : undefined;
    if (!place?.need || !giver) return [];
    return [
      {
        kind: 'edit',
        label: `Move leg ${giver.index + 1} before it`,
        edits: [{ kind: 'move leg', leg: giver.leg.id, before: place.leg.leg.id }],
      },
      { kind: 'edit', label: 'Add a column for it', edits: [{ kind: 'add column', column: place.need.need, before: null }] },
      { kind: 'look', label: 'Add a leg that gives it', look: 'tests that give it' },
    ];
  },
};
