import { assertNever } from '../assert-never.ts';
import { checkValue, isCalendarDate } from './check-value.ts';
import type { Field } from './field.ts';

/**
 * Brings a value that was handed over into the type in which it is needed: the number out of “14.5 m”, the date out of “31.01.2026”.
 * Undefined when the text holds no such value, or more than one. Cost O(length).
 */
export function convertValue(text: string, field: Field): string | undefined {
  const plain = text.trim();
  switch (field.type) {
    case 'text':
      return plain;
    case 'whole':
    case 'number':
    case 'money':
      return keepIfChecked(field, findOnly(plain.replace(/(\d)[\s\u00a0'](?=\d{3}\b)/gu, '$1'), NUMBER));
    case 'date':
      return readDate(plain);
    case 'choice':
    case 'code':
      return keepIfChecked(field, plain);
    default:
      return assertNever(field.type);
  }
}

function findOnly(text: string, pattern: RegExp): string | undefined {
  const found = text.match(pattern) ?? [];
  return found.length === 1 ? found[0] : undefined;
}

function keepIfChecked(field: Field, text: string | undefined): string | undefined {
  const check = text === undefined ? undefined : checkValue(field, text);
  return check?.ok ? check.value : undefined;
}

/** A number that stands for itself: not the end of a code (INV-12), nor a part of a date or a version. */
const NUMBER = /(?<![\p{L}\p{N}.,:/_-])[+-]?(?:\d[\d,]*(?:\.\d+)?|\.\d+)(?![\d]|[-/:.,]\d)/gu;
const ISO_DATE = /(?<!\d)\d{4}-\d{2}-\d{2}(?!\d)/gu;
const OTHER_DATE = /(?<![\d./])(\d{1,2})([./])(\d{1,2})\2(\d{4})(?![./]?\d)/gu;

/** ISO 8601 dates, and day before month with dots; with slashes only where no other reading is possible. */
function readDate(text: string): string | undefined {
  const [iso, otherIso] = text.match(ISO_DATE) ?? [];
  const [match, otherMatch] = [...text.matchAll(OTHER_DATE)];
  if (otherIso !== undefined || otherMatch || (iso !== undefined && match)) return undefined;
  if (iso !== undefined) return isCalendarDate(iso) ? iso : undefined;
  if (!match) return undefined;
  const [, first = '', mark, second = '', year = ''] = match;
  if (mark === '/' && Number(first) <= 12 && Number(second) <= 12 && first !== second) return undefined;
  const [day, month] = mark === '/' && Number(second) > 12 ? [second, first] : [first, second];
  const date = `${year}-${month.padStart(2, '0')}-${day.padStart(2, '0')}`;
  return isCalendarDate(date) ? date : undefined;
}
