import { createLeg } from '@kindred-baton/core/scenarios/scenario-document';
import type { LegDocument } from '@kindred-baton/core/scenarios/scenario-document';
import { LEG } from '@kindred-baton/core/scenarios/relay';
import { describe, expect, it } from 'vitest';
import { drawRelay, layOutExported } from './draw-relay.ts';
import { DOCUMENT, toExported } from './exported-scenario.test-data.ts';

interface Box {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/** What a reader of the SVG sees, band by band: read from the text alone. */
function readBands(legs: readonly LegDocument[]) {
  const exported = toExported({ ...DOCUMENT, legs });
  const texts = drawRelay(exported).write().split('</svg>').slice(0, -1);
  const numbers = (text: string, ...names: string[]) => names.map((name) => Number(new RegExp(`\\b${name}="([^"]*)"`).exec(text)?.[1]));
  const toBox = (text: string): Box => {
    const [x = NaN, y = NaN, width = NaN, height = NaN] = numbers(text, 'x', 'y', 'width', 'height');
    return { x, y, width, height };
  };
  const bands = texts.map((text) => {
    const [left = NaN, top = NaN, width = NaN, height = NaN] = (/viewBox="([^"]*)"/.exec(text)?.[1] ?? '').split(' ').map(Number);
    const boxes = [...text.matchAll(/<rect [^>]*\/>/g)].map(([rect]) => ({ ...toBox(rect), isLeg: rect.includes('rx="14"'), rect }));
    return {
      frame: { x: left, y: top, width, height },
      legs: boxes.filter(({ isLeg }) => isLeg),
      lanes: boxes.filter((box) => !box.isLeg && box.width === width),
      heads: boxes.filter((box) => !box.isLeg && box.width === LEG.laneWidth - 12),
      words: [...text.matchAll(/<text ([^>]*)>([^<]+)<\/text>/g)].map(([, marks = '', word = '']) => {
        const [x = NaN, y = NaN] = numbers(marks, 'x', 'y');
        return { x, y, word };
      }),
    };
  });
  return { bands, relay: layOutExported(exported) };
}

const isIn = (point: { readonly x: number; readonly y: number }, { x, y, width, height }: Box) =>
  point.x >= x && point.x <= x + width && point.y >= y && point.y <= y + height;
const chain = (length: number) =>
  Array.from({ length }, (_, index) =>
    createLeg({
      id: `l${index}`,
      title: `Leg ${index + 1}`,
      team: index % 2 === 0 ? 't1' : 't2',
      after: index > 0 ? [`l${index - 1}`] : [],
    }),
  );

describe('a relay in print', () => {
  it.each([1, 10, 11, 12, 22, 23, 34])(
    'of %i legs behind one another shows each once, within the frame of its band, 11 columns a band',
    (length) => {
      const { bands } = readBands(chain(length));
      expect(bands).toHaveLength(Math.ceil(length / 11));
      expect(bands.map(({ legs }) => legs.length)).toEqual(
        Array.from({ length: Math.ceil(length / 11) }, (_, band) => Math.min(11, length - band * 11)),
      );
      for (const { frame, legs } of bands)
        for (const { x, y, width, height } of legs) {
          expect(isIn({ x, y }, frame) && isIn({ x: x + width, y: y + height }, frame)).toBe(true);
          // The names of the lanes hide no leg.
          expect(x).toBeGreaterThanOrEqual(frame.x + LEG.laneWidth);
        }
    },
  );

  it('has in every band each lane once, from edge to edge in turn of ground, with its name at its left', () => {
    const { bands, relay } = readBands(chain(14));
    for (const { frame, lanes, heads, words } of bands) {
      expect(lanes.map(({ x, y, height }) => ({ x, y, height }))).toEqual(relay.lanes.map(({ y, height }) => ({ x: frame.x, y, height })));
      expect(heads.map(({ x, y, height }) => ({ x, y, height }))).toEqual(relay.lanes.map(({ y, height }) => ({ x: frame.x, y, height })));
      relay.lanes.forEach(({ name }, index) => {
        const [word] = words.filter((each) => each.word === (name === 'Customer & desk' ? 'Customer &amp; desk' : name));
        expect(word && isIn(word, heads[index]!)).toBe(true);
      });
      expect(new Set(lanes.map(({ rect }) => /fill="([^"]*)"/.exec(rect)?.[1])).size).toBe(2);
    }
  });

  it('draws a wire that carries a value whole and strong, one that only waits dotted and thin', () => {
    const exported = toExported(DOCUMENT);
    const relay = layOutExported(exported);
    const drawn = [
      ...drawRelay(exported)
        .write()
        .matchAll(/<path d="([^"]*)"([^>]*)>/g),
    ].map(([, path, looks = '']) => [path, looks.includes('dasharray'), /stroke-width="([^"]*)"/.exec(looks)?.[1]]);
    for (const { path, values } of relay.wires) expect(drawn).toContainEqual([path, values.length === 0, values.length > 0 ? '2' : '1.2']);
    expect(new Set(relay.wires.map(({ values }) => values.length > 0)).size).toBeGreaterThan(0);
  });

  it('says how many days a leg waits, right above that leg and nowhere else', () => {
    const { bands, relay } = readBands(chain(3).map((leg, index) => (index === 1 ? { ...leg, waitDays: 4 } : leg)));
    const waits = bands.flatMap(({ words }) => words.filter(({ word }) => word.startsWith('+')));
    const leg = relay.legs[1]!;
    expect(waits.map(({ word }) => word)).toEqual(['+4 days']);
    expect(waits[0]!.x).toBe(leg.x + 6);
    expect(waits[0]!.y).toBeLessThan(leg.y);
    expect(waits[0]!.y).toBeGreaterThan(leg.y - LEG.laneGap);
    expect(readBands(chain(3)).bands.flatMap(({ words }) => words.filter(({ word }) => word.startsWith('+')))).toEqual([]);
  });

  it('numbers its legs, breaks long titles into two lines that stay within the leg, and says what was cut', () => {
    const long = { ...createLeg({ id: 'x', title: 'Agree the reinstatement of carriageway with the highway authority' }) };
    const text = drawRelay(toExported({ ...DOCUMENT, legs: [createLeg({ id: 'a', title: 'Fit it' }), long] })).write();
    const lines = [...text.matchAll(/<tspan x="[^"]*" y="([^"]*)">([^<]*)<\/tspan>/g)].map(([, y, line]) => [Number(y), line] as const);
    expect(lines.map(([, line]) => line)).toEqual(['1 Fit it', '2 Agree the', 'reinstatement …']);
    expect(lines[2]![0] - lines[1]![0]).toBe(14);
    for (const [, line] of lines) expect(line!.length).toBeLessThanOrEqual(16);
    expect(text.match(/>open<\/text>/g)).toHaveLength(2);
  });

  it('with nothing in it is a frame without legs', () => {
    const { bands } = readBands([]);
    expect(bands.map(({ legs, lanes }) => [legs.length, lanes.length])).toEqual([[0, 0]]);
    expect(bands[0]!.frame.width).toBe(LEG.laneWidth * 4);
  });
});
