import type { Field } from '../values/field.ts';
import { guessFieldType, toNameKey } from '../values/field.ts';
import { findTemplateNames } from '../values/template.ts';
import type { Step } from './step.ts';

/** What a test needs from outside and what it gives on. */
export interface TestInterface {
  readonly needs: readonly Field[];
  readonly gives: readonly Field[];
}

/**
 * Derives needs and gives from steps: needs are the names used before they are kept, gives the names kept, both in
 * order of first use. What the author confirmed before (`known`) keeps its type, choices, pattern and example; what is new
 * takes those that a value of its name has `elsewhere`.
 * Cost O(total length of the steps).
 */
export function deriveInterface(
  steps: readonly Step[],
  known: TestInterface = { needs: [], gives: [] },
  elsewhere: readonly Field[] = [],
): TestInterface {
  const needs = new Map<string, string>();
  const gives = new Map<string, string>();
  for (const step of steps) {
    for (const template of [step.target, step.within, step.beside, step.value, step.expect]) {
      for (const name of findTemplateNames(template ?? '')) {
        const key = toNameKey(name);
        if (!gives.has(key) && !needs.has(key)) needs.set(key, name);
      }
    }
    if (step.keepAs !== undefined && !gives.has(toNameKey(step.keepAs))) gives.set(toNameKey(step.keepAs), step.keepAs);
  }
  return { needs: toFields(needs, [...elsewhere, ...known.needs]), gives: toFields(gives, [...elsewhere, ...known.gives]) };
}

function toFields(names: ReadonlyMap<string, string>, known: readonly Field[]): Field[] {
  const confirmed = new Map(known.map((field) => [toNameKey(field.name), field]));
  return [...names].map(([key, name]) => ({ ...(confirmed.get(key) ?? { type: guessFieldType(name), required: true }), name }));
}
