import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { compareVersions } from './compare-versions.ts';
import type { Step } from './step.ts';

const press = (target: string, more: Partial<Step> = {}): Step => ({ do: 'press', target, ...more });
const kinds = (before: Step[], after: Step[]) =>
  compareVersions(before, after).map((row) => `${row.kind} ${('after' in row ? row.after : row.before).step.target}`);

describe('two versions side by side', () => {
  it('tells added, removed, changed and moved steps', () => {
    const before = [press('A'), press('B'), press('C'), { do: 'fill' as const, target: 'D', value: '1' }, press('E')];
    const after = [press('B'), press('C'), press('A'), { do: 'fill' as const, target: 'D', value: '2' }, press('F'), press('G')];
    expect(kinds(before, after)).toEqual(['same B', 'same C', 'moved A', 'changed D', 'changed F', 'added G']);
    const changed = compareVersions(before, after).find((row) => row.kind === 'changed');
    expect(changed).toMatchObject({ before: { index: 3 }, after: { index: 3 }, fields: ['value'] });
  });

  it('names what differs of a changed step, also what only one of the two has', () => {
    const fieldsOf = (before: Step, after: Step): string[] =>
      compareVersions([before], [after]).flatMap((row) => (row.kind === 'changed' ? [...row.fields] : [row.kind]));
    expect(fieldsOf(press('A'), press('A', { expect: 'Saved' }))).toEqual(['expect']);
    expect(fieldsOf(press('A', { value: '1', within: 'X' }), press('A', { value: '1' }))).toEqual(['within']);
    expect(fieldsOf({ do: 'fill', target: 'A', value: '1' }, { do: 'fill', target: 'B', value: '1' })).toEqual(['target']);
    expect(fieldsOf({ do: 'fill', target: 'A' }, { do: 'pick', target: 'B' }).sort()).toEqual(['added', 'removed']);
    // Two things without a value are not alike for that.
    expect(kinds([press('A'), { do: 'fill', target: 'B' }], [{ do: 'fill', target: 'C' }, press('Z')])).toEqual(
      ['changed C', 'changed Z'].sort(),
    );
  });

  it('takes what is filled in with the same for the same step under another name, before what is only filled in, too', () => {
    const fill = (target: string, value: string): Step => ({ do: 'fill', target, value });
    expect(kinds([fill('A', '1')], [fill('X', '9'), fill('B', '1')])).toEqual(['added X', 'changed B']);
    expect(kinds([fill('A', '1')], [press('Z'), fill('B', '2')])).toEqual(['added Z', 'changed B']);
  });

  it('puts a removed step where it stood', () => {
    expect(kinds([press('A'), { do: 'see', target: 'B' }, press('C')], [press('A'), press('C')])).toEqual([
      'same A',
      'removed B',
      'same C',
    ]);
  });

  it('accounts for every step of both versions exactly once (seed 5)', () => {
    const steps = fc.array(
      fc.constantFrom('A', 'B', 'C', 'D').map((target) => press(target)),
      { maxLength: 12 },
    );
    fc.assert(
      fc.property(steps, steps, (before, after) => {
        const rows = compareVersions(before, after);
        const indexes = (side: 'before' | 'after') =>
          rows
            .flatMap((row) => (side in row ? [(row as unknown as Record<typeof side, { index: number }>)[side].index] : []))
            .sort((a, b) => a - b);
        expect(indexes('before')).toEqual(before.map((_, index) => index));
        expect(indexes('after')).toEqual(after.map((_, index) => index));
        expect(compareVersions(before, before).every(({ kind }) => kind === 'same')).toBe(true);
      }),
      { seed: 5, numRuns: 500 },
    );
  });
});
