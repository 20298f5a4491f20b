const NAMES: Readonly<Record<string, string>> = {
  '&': '&amp;',
  '<': '&lt;',
  '>': '&gt;',
  '"': '&quot;',
  '\n': '&#10;',
  '\t': '&#9;',
  '\r': '&#13;',
};

/** Text for an attribute or an element (XML 1.0): marks escaped, characters that XML cannot hold left out. */
const escape = (text: string) =>
  text.replace(/[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]/g, '').replace(/[&<>"\n\t\r]/g, (mark) => NAMES[mark] ?? mark);

/** XML or HTML: made by the tag `markup`, which escapes every text that is put in. It is no string, so that none is taken for it. */
export class Markup {
  readonly #text: string;
  constructor(text: string) {
    this.#text = text;
  }
  /** As it is written into a file. */
  write(): string {
    return this.#text;
  }
}

type Inserted = string | number | Markup | readonly Inserted[];

const insert = (value: Inserted): string => {
  if (value instanceof Markup) return value.write();
  return typeof value === 'string' || typeof value === 'number' ? escape(String(value)) : value.map(insert).join('');
};

/** markup`<b>${name}</b>`: texts and numbers are escaped, markup stays as it is, lists are put one behind the other. Cost O(length). */
export function markup(parts: TemplateStringsArray, ...values: readonly Inserted[]): Markup {
  return new Markup(parts.reduce((text, part, index) => text + insert(values[index - 1] ?? '') + part));
}

export const NO_MARKUP = new Markup('');

/** Each on a line of its own. */
export const toLines = (parts: readonly Markup[]): Markup => new Markup(parts.map((part) => part.write()).join('\n'));

/** One behind the other, with text between. */
export const joinMarkup = (parts: readonly Markup[], between: string): Markup =>
  new Markup(parts.map((part) => part.write()).join(escape(between)));

/** ` name="value"` for each attribute that has a value. Names are ours. */
export const toAttributes = (attributes: Readonly<Record<string, string | undefined>>, prefix = ''): Markup =>
  new Markup(
    Object.entries(attributes)
      .map(([name, value]) => (value === undefined ? '' : ` ${prefix}${name}="${escape(value)}"`))
      .join(''),
  );

/** What is ours alone and no XML: the style of a page. */
export const toStyleSheet = (css: string): Markup => new Markup(css);
