/**
 * A value in a step: text with places in braces. `{Survey no.}` is an input or something kept earlier,
 * `{new AA-9999}` a fresh value, `{today + 90 days}` or `{today + 5 working days}` a date.
 * A brace of the text itself is doubled: `{{`, `}}`. What has a straight quote in it is no place, so that JSON can stand as it is.
 */
import { toNameKey } from './field.ts';

export type TemplatePart =
  | { readonly kind: 'text'; readonly text: string }
  | { readonly kind: 'name'; readonly name: string }
  | { readonly kind: 'new'; readonly pattern: string }
  | { readonly kind: 'day'; readonly offset: number; readonly working: boolean };

const PART = /\{\{|\}\}|\{([^{}]*)\}|[^{}]+|[{}]/g;
const DAY = /^today(?:\s*([+-])\s*(\d+)\s*(working\s+)?days?)?$/i;

function toPlacePart(inside: string): TemplatePart {
  const text = inside.trim();
  const day = DAY.exec(text);
  if (day) return { kind: 'day', offset: (day[1] === '-' ? -1 : 1) * Number(day[2] ?? 0) || 0, working: day[3] !== undefined };
  const fresh = /^new\s+(.+)$/i.exec(text);
  return fresh?.[1] ? { kind: 'new', pattern: fresh[1] } : { kind: 'name', name: text };
}

/** Splits a template into its parts. Never throws: a lone brace is text. Cost O(length). */
export function parseTemplate(template: string): TemplatePart[] {
  const parts: TemplatePart[] = [];
  for (const [token, inside] of template.matchAll(PART)) {
    if (inside !== undefined && inside.trim() !== '' && !inside.includes('"')) parts.push(toPlacePart(inside));
    else parts.push({ kind: 'text', text: token === '{{' ? '{' : token === '}}' ? '}' : token });
  }
  return parts;
}

/** The names that a template uses, in order, each once. */
export function findTemplateNames(template: string): string[] {
  const names = new Map<string, string>();
  for (const part of parseTemplate(template)) {
    if (part.kind === 'name' && !names.has(toNameKey(part.name))) names.set(toNameKey(part.name), part.name);
  }
  return [...names.values()];
}

export interface TemplateSource {
  /** The value of a name, or undefined while it is not known. */
  readonly valueOf: (name: string) => string | undefined;
  /** A date as YYYY-MM-DD, so many (working) days from today. */
  readonly day: (offset: number, working: boolean) => string;
  /** A fresh value for a pattern; the same one each time it is asked within one attempt. */
  readonly fresh: (pattern: string) => string;
}

/** Fills templates in; what a place gives goes through `escape` before it stands in the text. A name with no value stays in braces, so that it is seen to be missing. */
export function createTemplateFiller(source: TemplateSource, escape: (text: string) => string) {
  const part = (one: TemplatePart): string => {
    if (one.kind === 'text') return one.text;
    if (one.kind === 'day') return escape(source.day(one.offset, one.working));
    if (one.kind === 'new') return escape(source.fresh(one.pattern));
    const value = source.valueOf(one.name);
    return value === undefined ? `{${one.name}}` : escape(value);
  };
  return Object.assign((template: string) => parseTemplate(template).map(part).join(''), { part });
}

/** Fills a template in, as it stands. */
export const fillTemplate = (template: string, source: TemplateSource): string => createTemplateFiller(source, (text) => text)(template);
