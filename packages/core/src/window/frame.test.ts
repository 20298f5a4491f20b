import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { packFrame, readFrame } from './frame.ts';

const ABOUT = { attempt: 'a1', width: 1280, height: 800, scrollX: 0, scrollY: 120.5 };

describe('a frame', () => {
  it('comes out as it went in, whatever the picture, also from the middle of a larger buffer', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 300 }), fc.string(), fc.nat(20), (jpeg, attempt, before) => {
        const packed = packFrame({ ...ABOUT, attempt }, jpeg);
        const whole = new Uint8Array(before + packed.length);
        whole.set(packed, before);
        for (const one of [packed, whole.subarray(before)]) {
          const read = readFrame(one);
          expect(read?.about).toEqual({ ...ABOUT, attempt });
          expect([...read!.jpeg]).toEqual([...jpeg]);
        }
      }),
    );
  });

  it('that is none is nothing', () => {
    const said = (about: unknown) => packFrame(about as never, new Uint8Array(3));
    const long = new Uint8Array([0, 0, 255, 255, 1]);
    for (const bad of [new Uint8Array(), new Uint8Array([0, 0, 0]), long, new Uint8Array([0, 0, 0, 2, 1, 1])])
      expect(readFrame(bad)).toBeUndefined();
    for (const about of [null, 7, {}, { ...ABOUT, attempt: 3 }, { ...ABOUT, width: 'wide' }, { ...ABOUT, scrollY: null }])
      expect(readFrame(said(about))).toBeUndefined();
    fc.assert(fc.property(fc.uint8Array({ maxLength: 60 }), (bytes) => void readFrame(bytes)));
  });
});
