import type { Chain, WiredLeg, WireSource } from '@kindred-baton/core/scenarios/chain';
import type { Field } from '@kindred-baton/core/values/field';
import { FIELD_TYPE_LABELS, isCompatible, toNameKey } from '@kindred-baton/core/values/field';

interface SourceChoice {
  readonly key: string;
  readonly label: string;
  /** null: by its name, as nobody has said otherwise. */
  readonly from: WireSource | null;
}

export interface SourceGroups {
  readonly legs: readonly SourceChoice[];
  readonly converted: readonly SourceChoice[];
  readonly columns: readonly SourceChoice[];
}

/** Where a need of a leg could come from: outputs of earlier legs that fit, those that can be converted, columns. The likeliest first. */
export function listSources(chain: Chain, leg: WiredLeg, need: Field): SourceGroups {
  const outputs = chain.legs
    .filter(({ index }) => index < leg.index)
    .flatMap((giver) => giver.leg.gives.map((field) => ({ giver, field, isFit: isCompatible(field, need) })))
    .sort((a, b) => Number(isSame(b.field, need)) - Number(isSame(a.field, need)) || b.giver.index - a.giver.index);
  const toChoice = ({ giver, field, isFit }: (typeof outputs)[number]): SourceChoice => ({
    key: `leg ${giver.leg.id} ${toNameKey(field.name)}`,
    label: `Leg ${giver.index + 1}: ${field.name}${isFit ? '' : ` (${FIELD_TYPE_LABELS[field.type]})`}`,
    from: { kind: 'leg', leg: giver.leg.id, gives: field.name, ...(isFit ? {} : { convert: true }) },
  });
  return {
    legs: outputs.filter(({ isFit }) => isFit).map(toChoice),
    converted: outputs.filter(({ isFit }) => !isFit).map(toChoice),
    columns: chain.columns.map((column) => ({
      key: `column ${toNameKey(column.name)}`,
      label: `Column: ${column.name}`,
      from: { kind: 'column', column: column.name },
    })),
  };
}

const isSame = (a: Field, b: Field) => toNameKey(a.name) === toNameKey(b.name);

/** The key of the choice that is in force; “auto” when it is wired by its name. */
export function toSourceKey(leg: WiredLeg, need: Field): string {
  const from = leg.leg.wires?.find((wire) => toNameKey(wire.need) === toNameKey(need.name))?.from;
  switch (from?.kind) {
    case 'leg':
      return `leg ${from.leg} ${toNameKey(from.gives)}`;
    case 'column':
      return `column ${toNameKey(from.column)}`;
    case 'fixed':
    case 'new':
      return from.kind;
    default:
      return 'auto';
  }
}
