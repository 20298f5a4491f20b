import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { describe, expect, it } from 'vitest';

const CSS = readFileSync(fileURLToPath(new URL('./app.css', import.meta.url)), 'utf8');
type Theme = 'light' | 'dark';
type Rgb = readonly [number, number, number];

function getToken(name: string, theme: Theme): Rgb {
  const value = new RegExp(`--${name}: ([^;]+);`).exec(CSS)?.[1] ?? '';
  const [light = '', dark = light] = [...value.matchAll(/#[0-9a-f]{6}/g)].map((match) => match[0]);
  const hex = theme === 'light' ? light : dark;
  return [1, 3, 5].map((at) => parseInt(hex.slice(at, at + 2), 16)) as unknown as Rgb;
}

const toLinear = (channel: number) => (channel / 255 <= 0.04045 ? channel / 255 / 12.92 : ((channel / 255 + 0.055) / 1.055) ** 2.4);

/** Source: WCAG 2.2, relative luminance and contrast ratio (W3C). Not rounded before it is compared. */
function getContrast(a: Rgb, b: Rgb): number {
  const [first = 0, second = 0] = [a, b].map(
    ([red, green, blue]) => 0.2126 * toLinear(red) + 0.7152 * toLinear(green) + 0.0722 * toLinear(blue),
  );
  return (Math.max(first, second) + 0.05) / (Math.min(first, second) + 0.05);
}

describe('the contrast formula', () => {
  // Source: W3C, known pairs; verified by computing.
  it('tells 4.5422 for #767676 on white, 4.4781 for #777777, 2.9953 for #959595', () => {
    const onWhite = (grey: number) => getContrast([grey, grey, grey], [255, 255, 255]);
    expect([onWhite(0x76), onWhite(0x77), onWhite(0x95)].map((ratio) => ratio.toFixed(4))).toEqual(['4.5422', '4.4781', '2.9953']);
  });
});

describe.each<Theme>(['light', 'dark'])('the tokens, %s', (theme) => {
  it.each([
    ['ink', 'paper'],
    ['ink', 'sheet'],
    ['soft', 'paper'],
    ['soft', 'sheet'],
    ['soft', 'band'],
    ['baton-ink', 'baton-tint'],
    ['on-deep', 'deep'],
    ['on-outcome', 'passed'],
    ['on-outcome', 'failed'],
    ['failed', 'sheet'],
  ])('%s on %s can be read: 4.5 : 1', (text, ground) =>
    expect(getContrast(getToken(text, theme), getToken(ground, theme))).toBeGreaterThanOrEqual(4.5),
  );

  it.each(['passed', 'failed', 'blocked', 'underway', 'baton-wire'])('the mark of %s stands out from a card: 3 : 1', (mark) =>
    expect(getContrast(getToken(mark, theme), getToken('sheet', theme))).toBeGreaterThanOrEqual(3),
  );
});

/** Source: Machado, Oliveira and Fernandes 2009, severity 1.0, from memory. */
const BLINDNESS: Readonly<Record<string, readonly (readonly [number, number, number])[]>> = {
  protanopia: [
    [0.152286, 1.052583, -0.204868],
    [0.114503, 0.786281, 0.099216],
    [-0.003882, -0.048116, 1.051998],
  ],
  deuteranopia: [
    [0.367322, 0.860646, -0.227968],
    [0.280085, 0.672501, 0.047413],
    [-0.01182, 0.04294, 0.968881],
  ],
  tritanopia: [
    [1.255528, -0.076749, -0.178779],
    [-0.078411, 0.930809, 0.147602],
    [0.004733, 0.691367, 0.3039],
  ],
};

/** CIE 1976 L*a*b* (D65) of linear RGB. */
function toLab([red, green, blue]: Rgb): Rgb {
  const f = (t: number) => (t > (6 / 29) ** 3 ? Math.cbrt(t) : t / (3 * (6 / 29) ** 2) + 4 / 29);
  const x = f((0.4124 * red + 0.3576 * green + 0.1805 * blue) / 0.9505);
  const y = f(0.2126 * red + 0.7152 * green + 0.0722 * blue);
  const z = f((0.0193 * red + 0.1192 * green + 0.9505 * blue) / 1.089);
  return [116 * y - 16, 500 * (x - y), 200 * (y - z)];
}

const see = (colour: Rgb, matrix: (typeof BLINDNESS)[string]): Rgb => {
  const linear = colour.map(toLinear) as unknown as Rgb;
  return toLab(
    matrix.map((row) => Math.min(1, Math.max(0, row[0] * linear[0] + row[1] * linear[1] + row[2] * linear[2]))) as unknown as Rgb,
  );
};

describe.each(Object.entries(BLINDNESS))('with %s', (_, matrix) => {
  // A difference of 2.3 is just noticeable (Mahy 1994, from memory); four times that is asked for. Shapes differ besides.
  it('the outcomes stay apart', () => {
    const outcomes = ['passed', 'failed', 'blocked', 'underway'].map((name) => see(getToken(name, 'light'), matrix));
    const distances = outcomes.flatMap((a, i) => outcomes.slice(i + 1).map((b) => Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2])));
    expect(Math.min(...distances)).toBeGreaterThan(4 * 2.3);
  });
});
