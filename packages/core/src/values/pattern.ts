/**
 * A code's pattern: A letter, a lower-case letter, 9 digit, ? letter or digit, anything else itself; a backslash makes the
 * character behind it itself (`\\AP-99999`: AP-, then five digits).
 */
export type PatternPart =
  { readonly kind: 'letter' | 'lower' | 'digit' | 'either' } | { readonly kind: 'itself'; readonly character: string };

const KINDS: Readonly<Record<string, PatternPart>> = {
  A: { kind: 'letter' },
  a: { kind: 'lower' },
  '9': { kind: 'digit' },
  '?': { kind: 'either' },
};

export function parsePattern(pattern: string): PatternPart[] {
  const parts: PatternPart[] = [];
  const characters = [...pattern];
  for (let i = 0; i < characters.length; i += 1) {
    const character = characters[i] ?? '';
    const next = characters[i + 1];
    if (character === '\\' && next !== undefined) {
      parts.push({ kind: 'itself', character: next });
      i += 1;
    } else parts.push(KINDS[character] ?? { kind: 'itself', character });
  }
  return parts;
}

const CLASSES = { letter: '[A-Z]', lower: '[a-z]', digit: '[0-9]', either: '[A-Za-z0-9]' } as const;

/** The regular expression that a whole code must match. */
export function toPatternExpression(pattern: string): RegExp {
  const body = parsePattern(pattern).map((part) =>
    part.kind === 'itself' ? part.character.replace(/[.*+?^${}()|[\]\\/-]/g, '\\$&') : CLASSES[part.kind],
  );
  return new RegExp(`^${body.join('')}$`);
}
