import { describe, expect, it } from 'vitest';
import type { Changed } from './describe-since.ts';
import { describeSince, hasChanged } from './describe-since.ts';

const NOTHING: Changed = { passed: 0, failed: 0, blocked: 0, ready: 0, found: [], fixed: [] };
const defects = (count: number) => Array.from({ length: count }, (_, at) => ({ code: `TQ-${at + 1}`, title: 'Wrong band' }));
const tell = (more: Partial<Changed>, end?: string) =>
  describeSince({ ...NOTHING, ...more }, { of: 'Round 2', since: 'Fri 27 Nov, 08:00', ...(end === undefined ? {} : { end }) });

describe('what changed, as a paragraph', () => {
  it('counts one as one, and names the defects', () => {
    expect(tell({ passed: 1, failed: 1, found: defects(2) }, 'Even odds by Monday.')).toBe(
      'Round 2, since Fri 27 Nov, 08:00: 1 turn passed, 1 failed or was blocked, 0 came to hand. New: TQ-1 (Wrong band) and TQ-2 (Wrong band). Fixed: no defect. Even odds by Monday.',
    );
  });

  it('names twelve defects, and counts the others', () => {
    expect(tell({ found: defects(12) })).toMatch(/TQ-11 \(Wrong band\) and TQ-12 \(Wrong band\)\. Fixed/);
    expect(tell({ found: defects(30) })).toMatch(/TQ-12 \(Wrong band\) and 18 more\. Fixed/);
  });

  it('is nothing where nothing happened', () => {
    expect(hasChanged(NOTHING)).toBe(false);
    expect(hasChanged({ ...NOTHING, fixed: defects(1) })).toBe(true);
  });
});
