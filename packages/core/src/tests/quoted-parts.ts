/**
 * Quoted words and places of a sentence as single signs, so that nothing in them is taken for grammar: `press "Save and close"`
 * has one thing to press. The signs are private-use characters; those of the text itself are left out.
 */
const FIRST_SIGN = 0xe100;
const MAX_SIGNS = 400;
export const SIGN = '[\\ue100-\\ue28f]';
const SIGN_CHARACTER = /[\ue100-\ue28f]/;
const QUOTED =
  /"((?:\\.|[^"\\])*)"|[“„]([^“”„]*)[”“]|«\s*([^«»]*?)\s*»|`([^`]+)`|\*\*([^*]+)\*\*|(?<![\p{L}\p{N}])[‘']([^‘’']+)[’'](?![\p{L}\p{N}])|<([^<>]{1,100})>|\$?\{([^{}]{1,100})\}/gu;

interface Part {
  readonly text: string;
  /** A place to be filled in: `{Survey no.}`. */
  readonly isPlace: boolean;
}

export interface SignedText {
  readonly text: string;
  readonly parts: readonly Part[];
}

/** Cost O(length). */
export function signQuotedParts(sentence: string): SignedText {
  const clean = sentence.replace(/[\ue000-\uf8ff]/g, '');
  if (!/["“„«`*‘'<{]/.test(clean)) return { text: clean, parts: [] };
  const parts: Part[] = [];
  const text = clean.replace(QUOTED, (whole: string, ...groups: (string | undefined)[]) => {
    const inside = groups.slice(0, 8).find((group) => typeof group === 'string');
    if (inside === undefined || inside.trim() === '' || parts.length >= MAX_SIGNS) return whole;
    const isPlace = groups[6] !== undefined || groups[7] !== undefined;
    parts.push({ text: isPlace ? `{${inside.trim()}}` : inside.replace(/\\(.)/g, '$1').replace(/<([^<>]+)>/g, '{$1}'), isPlace });
    return String.fromCharCode(FIRST_SIGN + parts.length - 1);
  });
  return { text, parts };
}

/** A text with its signs as they were meant; quotation marks are gone. */
export function resolveSigns(text: string, { parts }: SignedText): string {
  if (parts.length === 0) return text;
  return text.replace(/[\ue100-\ue28f]/g, (sign) => parts[sign.charCodeAt(0) - FIRST_SIGN]?.text ?? '');
}

/** A text in people’s own words again, its quoted parts in quotation marks. */
export function restoreQuotes(text: string, { parts }: SignedText): string {
  if (parts.length === 0) return text;
  return text.replace(/[\ue100-\ue28f]/g, (sign) => {
    const part = parts[sign.charCodeAt(0) - FIRST_SIGN];
    return part === undefined || part.isPlace ? (part?.text ?? '') : `“${part.text}”`;
  });
}

export const hasSign = (text: string) => SIGN_CHARACTER.test(text);

/** Whether the text is one quoted part, or one place, and nothing else. */
export const isSign = (text: string) => text.length === 1 && SIGN_CHARACTER.test(text);
