import type { FoundItem } from '@kindred-baton/contracts/find/find';
import { describe, expect, it } from 'vitest';
import { chooseFound, placeOfChoice, walkFound } from './found-choice.ts';

const item = (code: string): FoundItem => ({ kind: 'test', code, name: code, context: '', path: `/tests/${code}` });
const found = ['BIL-01', 'BIL-02', 'BIL-03'].map(item);
const fresh = { found, walkedTo: null, isStale: false };

describe('what Enter opens in Find', () => {
  it('is the first, unless another was walked to', () => {
    expect(chooseFound(fresh)).toBe(found[0]);
    expect(chooseFound({ ...fresh, walkedTo: '/tests/BIL-03' })).toBe(found[2]);
  });

  it('is nothing where nothing was found', () => {
    expect(chooseFound({ ...fresh, found: [] })).toBeNull();
  });

  it('waits while the list answers earlier words, also while there is none yet', () => {
    expect(chooseFound({ ...fresh, isStale: true })).toBe('wait');
    expect(chooseFound({ found: [], walkedTo: null, isStale: true })).toBe('wait');
  });

  it('does not wait for what was walked to: it is meant as it is seen', () => {
    expect(chooseFound({ ...fresh, walkedTo: '/tests/BIL-02', isStale: true })).toBe(found[1]);
    expect(chooseFound({ ...fresh, walkedTo: '/tests/GONE', isStale: true })).toBe('wait');
  });

  it('walks to the ends and stays there', () => {
    expect(walkFound(fresh, -1)).toBe('/tests/BIL-01');
    expect(walkFound(fresh, 1)).toBe('/tests/BIL-02');
    expect(walkFound({ found, walkedTo: '/tests/BIL-03' }, 1)).toBe('/tests/BIL-03');
    expect(walkFound({ found: [], walkedTo: null }, 1)).toBeNull();
  });

  it('keeps the item walked to when the list changes, and falls back to the first', () => {
    expect(placeOfChoice({ found: [item('NEW'), ...found], walkedTo: '/tests/BIL-02' })).toBe(2);
    expect(placeOfChoice({ found, walkedTo: '/tests/GONE' })).toBe(0);
  });
});
