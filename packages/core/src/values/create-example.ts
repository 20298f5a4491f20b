import { assertNever } from '../assert-never.ts';
import type { Field } from './field.ts';
import { createFreshValue, createRandom, toSeed } from './fresh.ts';

/** An example of a field's value: its own, else one that its type allows; the same each time for the same field. */
export function createExample(field: Field): string {
  if (field.example !== undefined && field.example !== '') return field.example;
  switch (field.type) {
    case 'code':
      return createFreshValue(field.pattern ?? 'AA-9999', createRandom(toSeed(field.name)));
    case 'choice':
      return field.choices?.[0] ?? field.name;
    case 'whole':
      return '12';
    case 'number':
      return '12.5';
    case 'money':
      return '120.00';
    case 'date':
      return '2030-01-31';
    case 'text':
      return `some ${field.name.toLowerCase()}`;
    default:
      return assertNever(field.type);
  }
}
