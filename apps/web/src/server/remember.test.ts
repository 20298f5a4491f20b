import { describe, expect, it } from 'vitest';
import { createMemory } from './remember.ts';

describe('what is remembered', () => {
  it('lasts so long and no longer, can be forgotten, and is never more than so much', () => {
    let now = 0;
    const memory = createMemory<number>(100, 2, () => now);
    memory.set('a', 1);
    now = 99;
    expect(memory.get('a')).toBe(1);
    now = 100;
    expect(memory.get('a')).toBeUndefined();
    for (const [index, key] of ['a', 'b', 'c'].entries()) memory.set(key, index);
    expect([memory.get('a'), memory.get('b'), memory.get('c')]).toEqual([undefined, 1, 2]);
    memory.forget('b');
    expect(memory.get('b')).toBeUndefined();
    memory.forgetAll();
    expect(memory.get('c')).toBeUndefined();
  });
});
