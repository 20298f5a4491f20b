export interface Pixels {
  readonly width: number;
  readonly height: number;
  /** Red, green, blue, alpha; row by row. */
  readonly data: Uint8ClampedArray;
}

export interface Area {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

const LEAST_BLOCK = 12;
const BLOCKS = 5;

/**
 * Takes the pixels of an area away: it becomes a few blocks (five along its shorter side at most), each the mean of what was there, so that
 * letters cannot be read back. Changes the data in place. Cost O(pixels of the area).
 */
export function blurPixels({ width, height, data }: Pixels, area: Area): void {
  const [left, top] = [Math.max(0, area.x), Math.max(0, area.y)];
  const [right, bottom] = [Math.min(width, area.x + area.width), Math.min(height, area.y + area.height)];
  const block = Math.max(LEAST_BLOCK, Math.ceil(Math.min(right - left, bottom - top) / BLOCKS));
  for (let y = top; y < bottom; y += block)
    for (let x = left; x < right; x += block)
      evenOut({ width, data }, { x, y, right: Math.min(right, x + block), bottom: Math.min(bottom, y + block) });
}

function evenOut(
  { width, data }: Pick<Pixels, 'width' | 'data'>,
  { x, y, right, bottom }: { x: number; y: number; right: number; bottom: number },
): void {
  const sums = [0, 0, 0];
  const count = (right - x) * (bottom - y);
  const visit = (act: (at: number) => void) => {
    for (let row = y; row < bottom; row += 1) for (let column = x; column < right; column += 1) act((row * width + column) * 4);
  };
  visit((at) => {
    for (let channel = 0; channel < 3; channel += 1) sums[channel]! += data[at + channel]!;
  });
  visit((at) => {
    for (let channel = 0; channel < 3; channel += 1) data[at + channel] = Math.round(sums[channel]! / count);
    data[at + 3] = 255;
  });
}
