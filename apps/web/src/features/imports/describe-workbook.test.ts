import type { WorkbookImportPreview } from '@kindred-baton/contracts/imports/import';
import { describe, expect, it } from 'vitest';
import { countTaken, describeCounts, describeLegs, describeWorkbook } from './describe-workbook.ts';

const counts = { new: 0, changed: 0, same: 0 };
const PREVIEW: WorkbookImportPreview = {
  ...{ file: 'lamps.xlsx', fingerprint: 'f', problems: [], warnings: [], isStored: false },
  map: { counts: { ...counts, moved: 0, missing: 60 }, differences: [], more: 0 },
  tests: { counts: { ...counts, same: 3 }, differences: [] },
  scenarios: { counts, differences: [] },
};

describe('what a workbook would change', () => {
  it('counts what is new, changed and moved in all three lists, and not what is the same or missing', () => {
    expect(countTaken(PREVIEW)).toBe(0);
    const map = { ...PREVIEW.map, counts: { new: 1, changed: 2, moved: 4, same: 99, missing: 99 } };
    const tests = { ...PREVIEW.tests, counts: { new: 8, changed: 16, same: 99 } };
    const scenarios = { ...PREVIEW.scenarios, counts: { new: 32, changed: 64, same: 99 } };
    expect(countTaken({ map, tests, scenarios })).toBe(127);
  });

  it('is told in one line for each list', () => {
    expect(describeCounts({ new: 2, changed: 0, moved: 1, same: 12, missing: 60 })).toBe(
      '2 new, 1 moved, 12 the same; 60 are not in the file and stay',
    );
    expect(describeCounts({ ...counts, missing: 1 })).toBe('1 is not in the file and stays');
    expect(describeCounts(counts)).toBe('');
  });

  it('says what becomes of the legs of a scenario, what goes first', () => {
    const legs = (['added', 'removed', 'same', 'removed', 'moved'] as const).map((kind) => ({ kind }));
    expect(describeLegs(legs)).toBe('2 gone, 1 new, 1 moved');
    expect(describeLegs([{ kind: 'same' }])).toBe('no leg differs');
  });

  it('is told in the first line of the page: nothing yet, what is to mend, what there is to take in, that it is stored', () => {
    expect(describeWorkbook(null)).toBe('processes, tests with their steps, and scenarios');
    expect(describeWorkbook(PREVIEW)).toBe('everything in lamps.xlsx is there already');
    const tests = { ...PREVIEW.tests, counts: { ...counts, changed: 1 } };
    expect(describeWorkbook({ ...PREVIEW, tests })).toBe('1 change to take in; nothing is stored yet');
    expect(describeWorkbook({ ...PREVIEW, tests, problems: [{ sheet: 'Tests', message: 'no' }] })).toBe(
      '1 thing to mend in lamps.xlsx; nothing is stored',
    );
    expect(describeWorkbook({ ...PREVIEW, isStored: true })).toBe('lamps.xlsx is stored, all of it');
  });
});
