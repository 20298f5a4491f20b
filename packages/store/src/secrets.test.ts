import { describe, expect, it } from 'vitest';
import { addKey, parseKeyRing, readKeyName, seal, unseal } from './secrets.ts';

describe('secrets at rest', () => {
  const ring = addKey(undefined);

  it('open in their own place alone, and hold nothing of what they hide', () => {
    const sealed = seal(ring, 'practice-rehearsal', 'persona application environment');
    expect(unseal(ring, sealed, 'persona application environment')).toBe('practice-rehearsal');
    expect(() => unseal(ring, sealed, 'persona application other')).toThrow('sealed for something else');
    expect(sealed.includes('practice')).toBe(false);
    expect(seal(ring, 'practice-rehearsal', 'p').equals(seal(ring, 'practice-rehearsal', 'p'))).toBe(false);
  });

  it('open after a rotation with the key that sealed them, and new ones are sealed with the new key', () => {
    const before = seal(ring, 'old', 'p');
    const rotated = parseKeyRing(JSON.stringify(addKey(ring)));
    expect(unseal(rotated, before, 'p')).toBe('old');
    expect([readKeyName(before), readKeyName(seal(rotated, 'new', 'p'))]).toEqual(['k1', 'k2']);
    const { k2 } = rotated.keys;
    expect(() => unseal({ current: 'k2', keys: { k2: k2! } }, before, 'p')).toThrow('the key that sealed it is gone');
  });

  it('say when a byte was changed, or a file holds no keys', () => {
    const sealed = seal(ring, 'secret', 'p');
    sealed[sealed.length - 1]! ^= 1;
    expect(() => unseal(ring, sealed, 'p')).toThrow('it was changed');
    for (const text of ['', '{}', '{"current":"k1","keys":{}}', '{"current":"k1","keys":{"k1":"c2hvcnQ="}}'])
      expect(() => parseKeyRing(text)).toThrow('The file of keys cannot be read');
  });
});
