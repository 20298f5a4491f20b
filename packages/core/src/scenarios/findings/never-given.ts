import { compareNames } from '../../values/name-likeness.ts';
import type { Field } from '../../values/field.ts';
import { isCompatible } from '../../values/field.ts';
import type { Chain, WiredLeg } from '../chain.ts';
import type { FindingRule, WayOut } from './finding.ts';
import { findPlace, toWireEdit } from './finding.ts';

/** Names less alike than this are different things. */
const ALIKE = 0.5;

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
  findWaysOut: (finding, chain) => {
    const place = findPlace(chain, finding);
    if (!place?.need) return [];
    const { need } = place.need;
    return [
      ...listAlike(chain, place.leg, need),
      {
        kind: 'edit',
        label: 'Add a column for it',
        edits: [{ kind: 'add column', column: need, before: null }, ...(place.need.isByHand ? [toWireEdit(place.leg, need, null)] : [])],
      },
      { kind: 'look', label: 'Add a leg that gives it', look: 'tests that give it' },
    ];
  },
};

/** Values under another name that may be meant: the likeliest outputs of earlier legs, and columns. */
function listAlike(chain: Chain, leg: WiredLeg, need: Field): WayOut[] {
  const given = chain.legs
    .filter(({ index }) => index < leg.index)
    .flatMap((giver) =>
      giver.leg.gives.map((field) => ({
        likeness: isCompatible(field, need) ? compareNames(field.name, need.name) : 0,
        label: `Take ${field.name} of leg ${giver.index + 1}`,
        from: { kind: 'leg' as const, leg: giver.leg.id, gives: field.name },
      })),
    );
  const columns = chain.columns.map((column) => ({
    likeness: compareNames(column.name, need.name),
    label: `Take the column ${column.name}`,
    from: { kind: 'column' as const, column: column.name },
  }));
  return [...given, ...columns]
    .filter(({ likeness }) => likeness >= ALIKE)
    .sort((a, b) => b.likeness - a.likeness)
    .slice(0, 2)
    .map(({ label, from }) => ({ kind: 'edit', label, edits: [toWireEdit(leg, need, from)] }));
}
