import { FIELD_TYPE_LABELS } from '../../values/field.ts';
import { describeLeg, findPlace, toWireEdit } from './finding.ts';
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
                  `Leg ${index + 1} needs ${need.name} as ${FIELD_TYPE_LABELS[need.type]}, but ${describeLeg(chain, source.leg)} ` +
                  `gives it as ${FIELD_TYPE_LABELS[source.field.type]}. Change one of the two types.`,
              },
            ]
          : [],
      ),
    ),
  findWaysOut: (finding, chain) => {
    const place = findPlace(chain, finding);
    const source = place?.need?.source;
    if (!place?.need || source?.kind !== 'mismatch') return [];
    const { need } = place.need;
    const from = { kind: 'leg' as const, leg: source.leg, gives: source.field.name, convert: true };
    return [
      { kind: 'edit', label: `Convert it to ${FIELD_TYPE_LABELS[need.type]}`, edits: [toWireEdit(place.leg, need, from)] },
      {
        kind: 'edit',
        label: 'Take it from a column',
        edits: [{ kind: 'add column', column: need, before: null }, toWireEdit(place.leg, need, { kind: 'column', column: need.name })],
      },
      { kind: 'look', label: 'Add a leg that gives it', look: 'tests that give it' },
    ];
  },
};
