import type { AllowedRows } from './allowed-rows.ts';
import type { RowModel } from './row-model.ts';

/**
 * Fewer rows than this cannot do: each row covers one tuple of every set of columns, rows with different invalid classes differ, and n rows
 * cover all pairs of at most C(n − 1, ⌈n / 2⌉) two-valued columns (D. J. Kleitman and J. Spencer 1973, G. Katona 1973; from memory).
 */
export function getLowerBound(model: RowModel, allowed: AllowedRows, mostOfOneSet: number): number {
  // A column that has invalid classes alone takes the one that a row may have: no invalid class of another is ever tried.
  const isTaken = model.isInvalid.some((classes) => classes.length > 0 && classes.every(Boolean));
  const others = model.isInvalid.map((classes) => classes.filter((isInvalid) => !isInvalid).length);
  const invalidRows = model.isInvalid.reduce((sum, classes, column) => {
    const count = classes.filter(Boolean).length;
    // Forbidden combinations may take pairs away; such columns say nothing here.
    if (count === 0 || isTaken || allowed.isBound(column)) return sum;
    const widest = Math.max(1, ...others.filter((_, other) => other !== column && !allowed.isBound(other)));
    return sum + count * widest;
  }, 0);
  const binary = others.filter((count, column) => count >= 2 && !allowed.isBound(column)).length;
  return Math.max(mostOfOneSet, invalidRows, getBinaryBound(binary));
}

/** The least n with k ≤ C(n − 1, ⌈n / 2⌉): rows that cover all pairs of k two-valued columns. */
export function getBinaryBound(columns: number): number {
  if (columns <= 1) return columns * 2;
  let n = 4;
  while (choose(n - 1, Math.ceil(n / 2)) < columns) n += 1;
  return n;
}

function choose(n: number, k: number): number {
  let result = 1;
  for (let i = 1; i <= k; i += 1) result = (result * (n - k + i)) / i;
  return Math.round(result);
}
