/** What the history keeps of a change, as people read it: no ids, no markup of data. */
type Details = Readonly<Record<string, unknown>>;

const ID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/;
const NOTHING = 'nothing';

/**
 * “runs: 100 → 99”, “evidence: none → failed steps, environment: Rehearsal → Integration”. Where a change has a before and an after only what
 * differs is told; an id is told by its name, and left out where it has none. `why` is told by itself and not here. Cost O(size of the details).
 */
export function describeChange(details: Details, nameOf: (id: string) => string | undefined): string {
  const { before, after, why: _, ...rest } = details;
  const parts = isDetails(after) ? compare(isDetails(before) ? before : {}, after, nameOf) : [];
  const others = [...flatten(isDetails(after) ? rest : { ...rest, ...(after === undefined ? {} : { after }) }, nameOf)].map(
    ([name, text]) => `${name}: ${text}`,
  );
  return [...parts, ...others].join(', ');
}

function compare(before: Details, after: Details, nameOf: (id: string) => string | undefined): string[] {
  const [was, is] = [flatten(before, nameOf), flatten(after, nameOf)];
  return [...new Set([...is.keys(), ...was.keys()])].flatMap((name) => {
    const [from, to] = [was.get(name) ?? '', is.get(name) ?? ''];
    return from === to ? [] : [`${name}: ${from || NOTHING} → ${to || NOTHING}`];
  });
}

const isDetails = (value: unknown): value is Details => typeof value === 'object' && value !== null && !Array.isArray(value);

/** Each leaf by its own name, which is the last of its path. */
function flatten(details: Details, nameOf: (id: string) => string | undefined): Map<string, string> {
  const leaves = new Map<string, string>();
  for (const [name, value] of Object.entries(details)) {
    if (isDetails(value)) for (const [inner, text] of flatten(value, nameOf)) leaves.set(inner, text);
    else {
      const text = toText(value, nameOf);
      if (text !== '') leaves.set(toWords(name), text);
    }
  }
  return leaves;
}

function toText(value: unknown, nameOf: (id: string) => string | undefined): string {
  if (value === null || value === undefined) return '';
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  if (typeof value === 'string') return ID.test(value) ? (nameOf(value) ?? '') : value;
  if (Array.isArray(value))
    return value
      .map((item) => toText(item, nameOf))
      .filter((text) => text !== '')
      .join('; ');
  if (isDetails(value))
    return Object.values(value)
      .map((item) => toText(item, nameOf))
      .filter((text) => text !== '')
      .join(' ');
  return String(value);
}

/** environmentId → environment, endsOn → ends on; what people named themselves stays as it is. */
function toWords(name: string): string {
  if (!/^[a-z][A-Za-z]*$/.test(name)) return name;
  return name.replace(/Id$/, '').replace(/[A-Z]/g, (letter) => ` ${letter.toLowerCase()}`);
}
