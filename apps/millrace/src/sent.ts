/** What a screen sends when something is pressed or changed on it. */
export interface Sent {
  readonly values: Readonly<Record<string, string>>;
  readonly record: string;
  readonly mode: string;
  readonly event: string;
}
export const NOTHING: Sent = { values: {}, record: '', mode: '', event: '' };

const toText = (value: unknown) => (typeof value === 'string' ? value.slice(0, 2_000) : '');

/** From a screen of the newer generation, as JSON. */
export function readSent(body: unknown): Sent {
  const { values, record, mode, event } = (typeof body === 'object' && body !== null ? body : {}) as Partial<Record<keyof Sent, unknown>>;
  const own = typeof values === 'object' && values !== null ? Object.entries(values) : [];
  return {
    values: Object.fromEntries(own.map(([label, value]) => [label, toText(value)])),
    record: toText(record),
    mode: toText(mode),
    event: toText(event),
  };
}

/** A form of the older generation: fields by f:label, and the button that was pressed by its name. */
export function readForm(body: Record<string, unknown>): Sent {
  const values: Record<string, string> = {};
  let event = toText(body['event']);
  for (const [name, value] of Object.entries(body)) {
    if (name.startsWith('f:')) values[name.slice(2)] = toText(value);
    if (name.startsWith('press:')) event = name;
    const page = /^page:(\d+):(.*)$/.exec(name);
    if (page) values[`page of ${page[2]}`] = page[1] ?? '0';
  }
  return { values, record: toText(body['record']), mode: toText(body['mode']), event };
}
