import type { MapImportPreview, TestImportPreview } from '@kindred-baton/contracts/imports/import';
import type { MapDifference } from '@kindred-baton/core/imports/compare-map';
import { countKinds } from '@kindred-baton/core/imports/compare-map';
import type { TestDifference } from '@kindred-baton/core/imports/compare-tests';
import type { ImportProblem } from '@kindred-baton/core/tables/place';
import { printStep } from '@kindred-baton/core/tests/print-step';

const MOST_NODES_SHOWN = 5_000;
const MOST_TESTS_SHOWN = 2_000;

/** What a list changes on the map: how many of each kind, and the first of them in their branches; what stays since it is not in the list, on request. */
export function toMapChanges(
  differences: readonly MapDifference[],
  { withMissing = true } = {},
): Pick<MapImportPreview, 'counts' | 'differences' | 'more'> {
  const shown = takeDiffering(withMissing ? differences : differences.filter(({ kind }) => kind !== 'missing'));
  return {
    counts: countKinds(differences),
    differences: shown
      .slice(0, MOST_NODES_SHOWN)
      .map(({ changes, fields: _, place: __, ...line }) => ({ ...line, changes: changes.map((change) => ({ ...change })) })),
    more: Math.max(0, shown.length - MOST_NODES_SHOWN),
  };
}

/** What differs, and the unchanged nodes above it, so that branches can be chosen. */
function takeDiffering(differences: readonly MapDifference[]): MapDifference[] {
  const byCode = new Map(differences.map((difference) => [difference.code, difference]));
  const kept = new Set<string>();
  for (const { kind, code } of differences) {
    if (kind === 'same') continue;
    for (let at = byCode.get(code); at && !kept.has(at.code); at = at.parent === null ? undefined : byCode.get(at.parent))
      kept.add(at.code);
  }
  return differences.filter(({ code }) => kept.has(code));
}

/** What a list changes in the library: how many of each kind, and the first of them. */
export function toTestChanges(differences: readonly TestDifference[]): Pick<TestImportPreview, 'counts' | 'differences'> {
  return {
    counts: countChanges(differences),
    differences: differences
      .flatMap(({ kind, code, after, changes }) => {
        if (kind === 'same') return [];
        const steps = after.steps.map(printStep);
        return [{ kind, code, title: after.name, steps, rows: after.rows.length, changes: changes.map((change) => ({ ...change })) }];
      })
      .slice(0, MOST_TESTS_SHOWN),
  };
}

export function countChanges(differences: readonly { readonly kind: 'new' | 'changed' | 'same' }[]): TestImportPreview['counts'] {
  const count = (kind: string) => differences.filter((difference) => difference.kind === kind).length;
  return { new: count('new'), changed: count('changed'), same: count('same') };
}

/** A problem with its place as the person sees it. */
export const toProblemLine = ({ sheet, row, column, message }: ImportProblem) => ({ sheet, row, column, message });
