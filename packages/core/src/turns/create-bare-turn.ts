import type { Step } from '../tests/step.ts';
import type { Field } from '../values/field.ts';
import type { BareTurn } from './turn.ts';

/** A turn without a written test: one step in people's own words, and one for each value that others need from it. */
export function createBareTurn(title: string, gives: readonly Field[]): BareTurn {
  const keeps = gives.map((field): Step => ({
    do: 'keep',
    target: field.name,
    keepAs: field.name,
    ...(field.required === false ? { optional: true } : {}),
  }));
  return { gives, steps: [{ do: 'hand', target: `Do it, and say how it went: ${title}` }, ...keeps] };
}
