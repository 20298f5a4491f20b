import type { WorkbookImportPreview } from '@kindred-baton/contracts/imports/import';
import { countOf } from '../../ui/format.ts';

type Counts = Pick<WorkbookImportPreview, 'map' | 'tests' | 'scenarios'>;

/** How many things a workbook would bring or change. What is not in it stays and does not count. */
export function countTaken({ map, tests, scenarios }: Counts): number {
  const { new: added, changed, moved } = map.counts;
  return added + changed + moved + tests.counts.new + tests.counts.changed + scenarios.counts.new + scenarios.counts.changed;
}

/** “2 new, 1 moved, 12 the same; 60 are not in the file and stay” */
export function describeCounts({ missing = 0, same = 0, ...counts }: Readonly<Partial<Record<string, number>>>): string {
  const parts = Object.entries(counts).flatMap(([kind, count = 0]) => (count > 0 ? [`${count} ${kind}`] : []));
  const told = [...parts, ...(same > 0 ? [`${same} the same`] : [])].join(', ');
  return [told, missing > 0 ? `${missing} ${missing === 1 ? 'is' : 'are'} not in the file and ${missing === 1 ? 'stays' : 'stay'}` : '']
    .filter((part) => part !== '')
    .join('; ');
}

const LEG_LABELS = { removed: 'gone', added: 'new', changed: 'changed', moved: 'moved' } as const;

/** “8 gone, 1 new”: what becomes of a scenario’s legs; the same ones do not count. */
export function describeLegs(legs: readonly { readonly kind: keyof typeof LEG_LABELS | 'same' }[]): string {
  const parts = Object.entries(LEG_LABELS).flatMap(([kind, word]) => {
    const count = legs.filter((leg) => leg.kind === kind).length;
    return count > 0 ? [`${count} ${word}`] : [];
  });
  return parts.length === 0 ? 'no leg differs' : parts.join(', ');
}

/** The page’s first line. */
export function describeWorkbook(preview: WorkbookImportPreview | null): string {
  if (!preview) return 'processes, tests with their steps, and scenarios';
  if (preview.isStored) return `${preview.file} is stored, all of it`;
  if (preview.problems.length > 0) return `${countOf(preview.problems.length, 'thing')} to mend in ${preview.file}; nothing is stored`;
  const taken = countTaken(preview);
  return taken === 0 ? `everything in ${preview.file} is there already` : `${countOf(taken, 'change')} to take in; nothing is stored yet`;
}
