import { describe, expect, it } from 'vitest';
import { blurPixels } from './blur-pixels.ts';

const WIDTH = 60;
const HEIGHT = 40;
/** A chequered picture: every pixel differs from its neighbours. */
const createPicture = () => {
  const data = new Uint8ClampedArray(WIDTH * HEIGHT * 4);
  for (let at = 0; at < WIDTH * HEIGHT; at += 1)
    data.set(((at % WIDTH) + Math.floor(at / WIDTH)) % 2 === 0 ? [255, 255, 255, 255] : [0, 0, 0, 255], at * 4);
  return { width: WIDTH, height: HEIGHT, data };
};
const at = ({ data }: { data: Uint8ClampedArray }, x: number, y: number) => data[(y * WIDTH + x) * 4];

describe('blurring', () => {
  it('leaves a few blocks of one colour each, so that nothing can be read back', () => {
    const picture = createPicture();
    blurPixels(picture, { x: 10, y: 10, width: 24, height: 24 });
    const values = new Set(Array.from({ length: 24 * 24 }, (_, i) => at(picture, 10 + (i % 24), 10 + Math.floor(i / 24))));
    expect([...values]).toEqual([128]);
  });

  it('touches nothing outside the area, and ends at the picture’s edge', () => {
    const picture = createPicture();
    blurPixels(picture, { x: 50, y: 30, width: 500, height: 500 });
    const before = createPicture();
    for (let y = 0; y < HEIGHT; y += 1)
      for (let x = 0; x < WIDTH; x += 1) if (x < 50 || y < 30) expect(at(picture, x, y)).toBe(at(before, x, y));
    expect(at(picture, 59, 39)).toBe(128);
  });
});
