import { describe, expect, it } from 'vitest';
import { proposeNextCode } from './propose-next-code.ts';

const propose = (near: string[], all: string[] = near, first = 'T-001') => proposeNextCode({ near, all, first });

describe('a proposed code', () => {
  it('is one above the highest of those that stand nearby, as wide as they are', () => {
    expect(propose(['BIL-09', 'BIL-12'])).toBe('BIL-13');
    expect(propose(['BIL-9'])).toBe('BIL-10');
    expect(propose(['A-099'])).toBe('A-100');
    expect(propose(['NS-S1', 'NS-S4'])).toBe('NS-S5');
  });

  it('follows the beginning that most share, and is free everywhere, whatever the case of its letters', () => {
    expect(propose(['FLD-03', 'BIL-01', 'BIL-02'])).toBe('BIL-03');
    expect(propose(['BIL-01'], ['BIL-01', 'bil-07', 'BILX-99'])).toBe('BIL-08');
  });

  it('begins anew where nothing nearby is numbered', () => {
    expect(propose([])).toBe('T-001');
    expect(propose([], ['T-001', 'T-007'])).toBe('T-008');
    expect(propose(['first'], ['first'], 'NS-S1')).toBe('NS-S1');
  });
});
