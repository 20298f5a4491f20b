import type { Row, RowModel } from './row-model.ts';

/** How many places a search may visit before it gives up; a search of real forbidden combinations visits dozens. */
const MOST_VISITS = 200_000;

export class TooTangledError extends Error {
  constructor() {
    super('The forbidden combinations are so entangled that no allowed row is found in reasonable time. Take some of them out.');
  }
}

/** Answers whether a partial row breaks no rule and can still be completed. Only columns that a rule names are searched. */
export interface AllowedRows {
  /** Whether the row can be completed; mutates nothing. */
  readonly canComplete: (row: Row) => boolean;
  /** Whether any rule speaks of the column. */
  readonly isBound: (column: number) => boolean;
}

/**
 * Checks partial rows against forbidden combinations and *at most one invalid class* by a depth-first search over the bound columns;
 * answers are remembered by the bound part of the row. Worst case exponential in the bound columns; over 200,000 places it throws TooTangledError.
 */
export function createAllowedRows(model: RowModel): AllowedRows {
  const rulesOf = new Map<number, (readonly (readonly [number, number])[])[]>();
  for (const rule of model.forbidden) {
    for (const [column] of rule) rulesOf.set(column, [...(rulesOf.get(column) ?? []), rule]);
  }
  // A column without a valid class takes the row's one invalid class, so it is bound as well.
  const allInvalid = model.isInvalid.flatMap((classes, column) => (classes.every(Boolean) ? [column] : []));
  const bound = [...new Set([...rulesOf.keys(), ...allInvalid])].sort((a, b) => a - b);
  const isBound = new Set(bound);
  const known = new Map<string, boolean>();

  const breaks = (row: Row, column: number) => (rulesOf.get(column) ?? []).some((rule) => rule.every(([at, value]) => row[at] === value));

  const search = (row: Row, invalid: number): boolean => {
    let visits = 0;
    const visit = (at: number, invalidSoFar: number): boolean => {
      visits += 1;
      if (visits > MOST_VISITS) throw new TooTangledError();
      const column = bound[at];
      if (column === undefined) return true;
      if ((row[column] ?? -1) >= 0) return visit(at + 1, invalidSoFar);
      const flags = model.isInvalid[column] ?? [];
      for (let value = 0; value < (model.sizes[column] ?? 0); value += 1) {
        const more = invalidSoFar + (flags[value] ? 1 : 0);
        if (more > 1) continue;
        row[column] = value;
        if (!breaks(row, column) && visit(at + 1, more)) return true;
      }
      row[column] = -1;
      return false;
    };
    return visit(0, invalid);
  };

  const canComplete = (row: Row): boolean => {
    let invalid = 0;
    for (let column = 0; column < row.length; column += 1) {
      const value = row[column] ?? -1;
      if (value >= 0 && model.isInvalid[column]?.[value]) invalid += 1;
    }
    if (invalid > 1) return false;
    if (bound.length === 0) return true;
    const key = `${invalid} ${bound.map((column) => row[column]).join(' ')}`;
    const before = known.get(key);
    if (before !== undefined) return before;
    const isWhole = bound.every((column) => (row[column] ?? -1) < 0 || !breaks(row, column));
    const answer = isWhole && search(row.slice(), invalid);
    known.set(key, answer);
    return answer;
  };
  return { canComplete, isBound: (column) => isBound.has(column) };
}
