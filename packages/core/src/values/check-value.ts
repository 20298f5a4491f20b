import { assertNever } from '../assert-never.ts';
import { createExample } from './create-example.ts';
import type { Field } from './field.ts';
import { toNameKey } from './field.ts';
import { toPatternExpression } from './pattern.ts';

/** A value as it is kept (trimmed, numbers with a point), or a sentence that says what is wrong with it. */
export type ValueCheck = { readonly ok: true; readonly value: string } | { readonly ok: false; readonly message: string };

const ok = (value: string): ValueCheck => ({ ok: true, value });
const no = (message: string): ValueCheck => ({ ok: false, message });

const MAX_VALUE_LENGTH = 2_000;

/** Checks what a person typed for a field. Cost O(length). */
export function checkValue(field: Field, typed: string): ValueCheck {
  const text = typed.trim();
  if (text === '') return field.required === false ? ok('') : no(`Type the ${field.name}.`);
  if (text.length > MAX_VALUE_LENGTH) return no(`${field.name} is longer than ${MAX_VALUE_LENGTH} characters.`);
  switch (field.type) {
    case 'text':
      return ok(text);
    case 'whole':
      return checkNumber(field, text, { decimals: 0 });
    case 'number':
      return checkNumber(field, text, {});
    case 'money':
      return checkNumber(field, text, { decimals: 2 });
    case 'date':
      return checkDate(field, text);
    case 'choice':
      return checkChoice(field, text);
    case 'code':
      return checkCode(field, text);
    default:
      return assertNever(field.type);
  }
}

function checkNumber(field: Field, text: string, rule: { decimals?: number }): ValueCheck {
  const spaced = text.replace(/[\s\u00a0\u202f']/g, '');
  // Commas are thousands only where nothing else can be meant: 1,250 and 12,500.75, but not 0,125.
  const plain = (/^[+-]?[1-9]\d{0,2}(,\d{3})+(\.\d+)?$/.test(spaced) ? spaced.replaceAll(',', '') : spaced).replace(/^([+-]?)\./, '$10.');
  if (/^[+-]?\d+,\d+$/.test(plain)) return no(`${field.name}: write “${text}” with a point, ${plain.replace(',', '.')}.`);
  if (!/^[+-]?\d+(\.\d+)?$/.test(plain)) {
    return no(`${field.name} should be a number such as ${rule.decimals === 0 ? '12' : '12.50'}; “${text}” is not one.`);
  }
  const decimals = plain.split('.')[1]?.length ?? 0;
  if (rule.decimals !== undefined && decimals > rule.decimals) {
    return no(
      rule.decimals === 0
        ? `${field.name} should be a whole number; “${text}” is not one.`
        : `${field.name} should have at most ${rule.decimals} decimals; “${text}” has ${decimals}.`,
    );
  }
  return ok(plain.replace(/^\+/, ''));
}

/** A calendar date as YYYY-MM-DD that exists (no 30 February). */
export function isCalendarDate(text: string): boolean {
  const match = /^(\d{4})-(\d{2})-(\d{2})$/.exec(text);
  if (!match) return false;
  const [year, month, day] = [Number(match[1]), Number(match[2]), Number(match[3])];
  const date = new Date(Date.UTC(year, month - 1, day));
  return date.getUTCFullYear() === year && date.getUTCMonth() === month - 1 && date.getUTCDate() === day;
}

function checkDate(field: Field, text: string): ValueCheck {
  return isCalendarDate(text) ? ok(text) : no(`${field.name} should be a date such as 2026-03-31; “${text}” is not one.`);
}

function checkChoice(field: Field, text: string): ValueCheck {
  const choices = field.choices ?? [];
  const found = choices.find((choice) => toNameKey(choice) === toNameKey(text));
  return found === undefined && choices.length > 0
    ? no(`${field.name} should be one of ${choices.join(', ')}; “${text}” is not.`)
    : ok(found ?? text);
}

function checkCode(field: Field, text: string): ValueCheck {
  if (!field.pattern || toPatternExpression(field.pattern).test(text)) return ok(text);
  return no(`${field.name} should look like ${createExample(field)}; “${text}” does not.`);
}
