import { describe, expect, it } from 'vitest';
import { toColumnLetters } from './workbook.ts';

describe('the letters of a column', () => {
  // Source: ECMA-376, part 1, 18.3.1.4: columns are A to XFD, 16,384 of them.
  it.each([
    [1, 'A'],
    [26, 'Z'],
    [27, 'AA'],
    [52, 'AZ'],
    [53, 'BA'],
    [702, 'ZZ'],
    [703, 'AAA'],
    [16_384, 'XFD'],
  ])('%i is %s', (column, letters) => expect(toColumnLetters(column)).toBe(letters));
});
