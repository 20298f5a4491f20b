import { toNameKey } from '../values/field.ts';

interface Item {
  readonly code: string;
  readonly name: string;
}

/**
 * What somebody typed of links, as codes: codes or names with commas, semicolons or lines between, or codes with spaces between. What is neither
 * stays as it was typed, so that it is refused with its words. Cost O(text × items).
 */
export function readLinks(text: string, items: readonly Item[]): string[] {
  const isCode = new Set(items.map(({ code }) => code));
  const codesOf = new Map<string, string[]>();
  for (const { code, name } of items) codesOf.set(toNameKey(name), [...(codesOf.get(toNameKey(name)) ?? []), code]);
  const parts = text
    .split(/[,;\n]/)
    .map((part) => part.trim())
    .filter((part) => part !== '');
  const found = parts.flatMap((part) => {
    const named = codesOf.get(toNameKey(part)) ?? [];
    if (isCode.has(part)) return [part];
    return named.length === 1
      ? named
      : part.split(/\s+/).some((word) => isCode.has(word)) || !part.includes(' ')
        ? part.split(/\s+/)
        : [part];
  });
  return [...new Set(found)];
}
