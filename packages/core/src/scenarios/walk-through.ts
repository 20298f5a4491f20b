import { createExample } from '../values/create-example.ts';
import type { Field } from '../values/field.ts';
import { toNameKey } from '../values/field.ts';
import type { Chain, NeedSource, WiredLeg } from './chain.ts';

export interface WalkedValue {
  readonly name: string;
  readonly value: string;
  /** An example stands for what a person will keep; the other values are known now. */
  readonly isExample: boolean;
  /** 0-based leg that gives it; null: the data row. */
  readonly from: number | null;
}

export interface WalkedLeg {
  readonly index: number;
  readonly needs: readonly { readonly need: Field; readonly source: NeedSource; readonly value: WalkedValue | null }[];
  readonly gives: readonly WalkedValue[];
  /** What the baton holds after the leg. */
  readonly baton: readonly WalkedValue[];
}

/**
 * A walk through the chain with one data row: what comes into each leg, and what the baton holds behind it. Values that will be kept at
 * run time are shown by an example of their type. Cost O(legs × values).
 */
export function walkThrough(chain: Chain, row: Readonly<Record<string, string>>): WalkedLeg[] {
  const rowValues = new Map(Object.entries(row).map(([name, value]) => [toNameKey(name), value]));
  const given = new Map<string, WalkedValue>();
  const baton = new Map<string, WalkedValue>();
  const toValue = (need: Field, source: NeedSource): WalkedValue | null => {
    switch (source.kind) {
      case 'leg': {
        const value = given.get(`${source.leg} ${toNameKey(source.field.name)}`);
        return value ? { ...value, name: need.name } : null;
      }
      case 'column': {
        const value = rowValues.get(toNameKey(source.field.name)) ?? '';
        return value === '' ? null : { name: need.name, value, isExample: false, from: null };
      }
      case 'fixed':
      case 'own':
        return { name: need.name, value: source.value, isExample: false, from: null };
      case 'new':
        return {
          name: need.name,
          value: createExample({ name: need.name, type: 'code', pattern: source.pattern }),
          isExample: true,
          from: null,
        };
      default:
        return null;
    }
  };
  return inOrder(chain).map(({ leg, index, needs }) => {
    const walkedNeeds = needs.map(({ need, source }) => ({ need, source, value: toValue(need, source) }));
    const gives = leg.gives.map((field): WalkedValue => ({ name: field.name, value: createExample(field), isExample: true, from: index }));
    for (const value of gives) {
      given.set(`${leg.id} ${toNameKey(value.name)}`, value);
      baton.set(toNameKey(value.name), value);
    }
    return { index, needs: walkedNeeds, gives, baton: [...baton.values()] };
  });
}

/** Legs in the order in which they can be run: by column, then by place. */
function inOrder(chain: Chain): WiredLeg[] {
  return [...chain.legs].sort((a, b) => a.column - b.column || a.index - b.index);
}
