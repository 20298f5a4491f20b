import type { ImportProblem, Place } from '../tables/place.ts';

interface Coded {
  readonly place: Place;
  readonly code: string;
  readonly name: string;
}

/** Codes that stand twice in the file, or stand in the programme under another name. */
export function findRepeats(kind: string, rows: readonly Coded[], existing: readonly { code: string; name: string }[]): ImportProblem[] {
  const seen = new Map<string, Place>();
  const there = new Map(existing.map(({ code, name }) => [code, name]));
  return rows.flatMap(({ place, code, name }) => {
    const first = seen.get(code);
    if (first) return [{ ...place, message: `${kind} ${code} is already in row ${first.row}. Give each its own code.` }];
    seen.set(code, place);
    const other = there.get(code);
    return other !== undefined && other !== name
      ? [
          {
            ...place,
            message: `${kind} ${code} is already in the programme as “${other}”. Use another code, or the same name to leave it as it is.`,
          },
        ]
      : [];
  });
}

/** A team or application that the programme does not have. */
export function findUnknown(
  kind: 'Team' | 'Application',
  rows: readonly { place: Place; name: string | null }[],
  known: readonly string[],
): ImportProblem[] {
  const names = new Set(known);
  return rows
    .filter(({ name }) => name !== null && !names.has(name))
    .map(({ place, name }) => ({
      ...place,
      column: kind,
      message: `${kind} “${name}” is not known. Known: ${known.length > 0 ? known.join(', ') : 'none yet'}.`,
    }));
}
