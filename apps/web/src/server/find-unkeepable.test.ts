import { describe, expect, it } from 'vitest';
import { findUnkeepable } from './find-unkeepable.ts';

describe('a text that cannot be kept', () => {
  it('is one with a NUL or with half a character, wherever it stands', () => {
    expect(findUnkeepable({ word: { note: 'a\u0000b' } })).toEqual(['word', 'note']);
    expect(findUnkeepable(['fine', { rows: ['x', '\ud83d'] }])).toEqual(['1', 'rows', '1']);
    expect(findUnkeepable('\udc69 alone')).toEqual([]);
    expect(findUnkeepable({ 'na\u0000me': 1 })).toEqual([]);
  });

  it('is nothing that people write: other scripts, combined signs, tabs and line breaks', () => {
    expect(findUnkeepable({ a: '👩🏽‍🔧 עברית e\u0301 \t\n\r', b: [1, null, true, undefined], c: {} })).toBeNull();
  });
});
