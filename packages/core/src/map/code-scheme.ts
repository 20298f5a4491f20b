/**
 * How a programme numbers its nodes: a pattern for each level. `{parent}` is the parent's code, `{initials}` the first letters
 * of the name, a run of 9 the next free number with at least so many digits; anything else stands for itself.
 * Without a scheme for a level the last pattern is taken.
 */
export const DEFAULT_CODE_SCHEME = ['{initials}', '{parent}-9', '{parent}.9'] as const;

const PART = /\{parent\}|\{initials\}|9+/g;
const MAX_CODE_LENGTH = 40;

/** Says what is wrong with a scheme, or null. A pattern needs a number or the initials, else all codes of a level are one. */
export function checkCodeScheme(scheme: readonly string[]): string | null {
  if (scheme.length === 0) return 'Give a pattern for the first level at least.';
  for (const [index, pattern] of scheme.entries()) {
    if (!/9|\{initials\}/.test(pattern)) return `Pattern ${index + 1} (${pattern}) has neither a number (9) nor {initials}.`;
    if (index === 0 && pattern.includes('{parent}')) return 'The first level has no parent to take a code from.';
    if (/[^A-Za-z0-9._-]/.test(pattern.replace(PART, '')))
      return `Pattern ${index + 1} (${pattern}) has characters that a code cannot have; letters, digits, points, hyphens and underscores can.`;
  }
  return null;
}

export interface CodeWish {
  readonly scheme: readonly string[];
  /** 0 at the top. */
  readonly depth: number;
  readonly parent: string | null;
  readonly name: string;
  readonly isTaken: (code: string) => boolean;
}

/** The first free code of the scheme for a new node. Cost O(codes taken with the same beginning). */
export function proposeCode({ scheme, depth, parent, name, isTaken }: CodeWish): string {
  const pattern = scheme[Math.min(depth, scheme.length - 1)] ?? '{parent}-9';
  let before: string | null = null;
  for (let number = 1; ; number += 1) {
    const filled = fillPattern(pattern, { parent, name, number });
    // Where the number itself was cut off a long code, it stands at the end.
    const code = filled === before ? `${filled.slice(0, MAX_CODE_LENGTH - String(number).length - 1)}-${number}` : filled;
    if (!isTaken(code)) return code;
    before = filled;
  }
}

function fillPattern(pattern: string, { parent, name, number }: { parent: string | null; name: string; number: number }): string {
  const hasNumber = /9/.test(pattern);
  const filled = pattern.replace(PART, (part) => {
    if (part === '{parent}') return parent ?? '';
    if (part === '{initials}') return toInitials(name);
    return String(number).padStart(part.length, '0');
  });
  const code = filled.replace(/^[^A-Za-z0-9]+/, '');
  // Two names with the same initials: the second gets a number.
  const numbered = hasNumber || number === 1 ? code : `${code}${number}`;
  return numbered.slice(-MAX_CODE_LENGTH).replace(/^[^A-Za-z0-9]+/, '');
}

function toInitials(name: string): string {
  const plain = name.normalize('NFKD').replace(/\p{M}/gu, '');
  const words = plain.split(/[^A-Za-z0-9]+/).filter((word) => word !== '' && !/^(and|of|the|to|for|a|an|in|on)$/i.test(word));
  const letters = words.length > 1 ? words.map((word) => word[0]).join('') : (words[0] ?? '').slice(0, 3);
  return letters.slice(0, 4).toUpperCase() || 'N';
}
