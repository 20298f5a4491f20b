/**
 * What a test needs and gives: a named, typed field. The type says what a person may type when a value
 * is kept, and whether an output can be wired to an input.
 */
export const FIELD_TYPES = ['text', 'whole', 'number', 'money', 'date', 'choice', 'code'] as const;
export type FieldType = (typeof FIELD_TYPES)[number];

export const FIELD_TYPE_LABELS: Readonly<Record<FieldType, string>> = {
  text: 'text',
  whole: 'whole number',
  number: 'number',
  money: 'money',
  date: 'date',
  choice: 'one of a list',
  code: 'code',
};

export interface Field {
  readonly name: string;
  readonly type: FieldType;
  /** For `choice`: the allowed values, in order. */
  readonly choices?: readonly string[] | undefined;
  /** For `code`: A letter, a lower-case letter, 9 digit, ? letter or digit, anything else itself. */
  readonly pattern?: string | undefined;
  readonly required?: boolean | undefined;
  readonly example?: string | undefined;
}

/** Two names mean the same value when they differ only in case and in white space. */
export function toNameKey(name: string): string {
  return name.trim().replace(/\s+/g, ' ').toLowerCase();
}

const WIDENS: Readonly<Record<FieldType, readonly FieldType[]>> = {
  text: ['text', 'code', 'choice'],
  code: ['text', 'code'],
  choice: ['text', 'choice'],
  whole: ['whole', 'number', 'money', 'text'],
  number: ['number', 'money', 'text'],
  money: ['money', 'number', 'text'],
  date: ['date', 'text'],
};

/**
 * Whether a value of the giver's type can be taken where the needer's type is asked for. Text is taken as
 * a code or a choice (it is checked when it comes); a number is not taken as a date, nor text as a number.
 */
export function isCompatible(giver: Field, needer: Field): boolean {
  if (!WIDENS[giver.type].includes(needer.type)) return false;
  if (giver.type === 'choice' && needer.type === 'choice' && giver.choices && needer.choices) {
    const taken = new Set(needer.choices.map(toNameKey));
    return giver.choices.every((choice) => taken.has(toNameKey(choice)));
  }
  return true;
}

const GUESSES: readonly (readonly [RegExp, FieldType])[] = [
  [/\b(date|until|due on|on which day)$/i, 'date'],
  [/\b(no\.?|number|serial|id|reference)$/i, 'text'],
  [/\b(amount|charge|price|fee|deposit|balance|total|paid|deposit due|cost)\b/i, 'money'],
  [/\b(length|pressure|consumption|reading|hours|weight|volume)\b/i, 'number'],
  [/\b(count|quantity|pieces|days)\b/i, 'whole'],
];

/** A first proposal for a field's type from its name; the author confirms it. */
export function guessFieldType(name: string): FieldType {
  return GUESSES.find(([pattern]) => pattern.test(name.trim()))?.[1] ?? 'text';
}
