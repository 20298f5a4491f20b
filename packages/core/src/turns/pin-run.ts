import type { Chain, NeedSource } from '../scenarios/chain.ts';
import type { Field } from '../values/field.ts';
import { toNameKey } from '../values/field.ts';
import type { PinnedNeed, PinnedSource } from './turn.ts';

export interface PinnedLeg {
  readonly leg: string;
  readonly after: readonly number[];
  readonly needs: readonly PinnedNeed[];
}

/** Fixes a wired chain for one data row: every need's source by place in the run, so that later edits do not move it. */
export function pinRun(chain: Chain, rowValues: Readonly<Record<string, string>>): PinnedLeg[] {
  const indexOf = new Map(chain.legs.map(({ leg, index }) => [leg.id, index]));
  const row = new Map(Object.entries(rowValues).map(([name, value]) => [toNameKey(name), value]));
  const pin = (source: NeedSource, need: Field): PinnedSource => {
    switch (source.kind) {
      case 'leg':
        return {
          ...{ kind: 'turn', index: indexOf.get(source.leg) ?? -1, name: source.field.name },
          ...(source.isConverted ? { convertTo: need } : {}),
        };
      case 'column': {
        const value = row.get(toNameKey(source.field.name)) ?? '';
        return value === '' ? { kind: 'none' } : { kind: 'value', value, from: 'row' };
      }
      case 'fixed':
        return { kind: 'value', value: source.value, from: 'fixed' };
      case 'own':
        return { kind: 'value', value: source.value, from: 'own' };
      case 'new':
        return { kind: 'new', pattern: source.pattern };
      default:
        return { kind: 'none' };
    }
  };
  return chain.legs.map(({ leg, after, needs }) => ({
    leg: leg.id,
    after,
    needs: needs
      .filter(({ need, source }) => need.required !== false || pin(source, need).kind !== 'none')
      .map(({ need, source }) => ({
        name: need.name,
        source: pin(source, need),
        ...(need.required === false ? { isOptional: true as const } : {}),
      })),
  }));
}
