import { pushTo } from '../push-to.ts';
import type { Chain } from './chain.ts';
import { routeWires } from './route-wires.ts';

export interface RelayLeg {
  readonly id: string;
  readonly index: number;
  readonly lane: number;
  readonly column: number;
  readonly x: number;
  readonly y: number;
  readonly height: number;
}

export interface RelayLane {
  readonly name: string;
  readonly legs: number;
  readonly y: number;
  readonly height: number;
  readonly isFolded: boolean;
}

export interface RelayWire {
  readonly key: string;
  readonly from: string;
  readonly to: string;
  /** The values that are handed over; none: the one only waits for the other. */
  readonly values: readonly string[];
  /** Calendar days that pass before the second can start. */
  readonly waitDays: number;
  /** Where it goes, from edge to edge; the last is where it arrives. */
  readonly points: readonly (readonly [x: number, y: number])[];
  /** The same with rounded corners, as an SVG path. */
  readonly path: string;
}

export interface Relay {
  readonly lanes: readonly RelayLane[];
  readonly legs: readonly RelayLeg[];
  readonly wires: readonly RelayWire[];
  /** Left edge of each column. */
  readonly columns: readonly number[];
  readonly width: number;
  readonly height: number;
}

export const LEG = {
  width: 98,
  height: 54,
  foldedHeight: 18,
  laneWidth: 124,
  laneGap: 20,
  headHeight: 40,
  leastGap: 14,
  channel: 5,
} as const;

export interface RelayOptions {
  readonly laneOf: (id: string) => string;
  readonly waitDaysOf?: (id: string) => number;
  /** Lanes drawn as a slim row, by name. */
  readonly folded?: ReadonlySet<string>;
}

/**
 * Lays a wired chain out as a relay: a row per lane in order of first use, a column per step of the longest path; legs of one lane in one
 * column stand below one another. A gap between columns is as wide as its wires need. Cost O(legs + wires log wires).
 */
export function layOutRelay(chain: Chain, { laneOf, waitDaysOf = () => 0, folded = new Set() }: RelayOptions): Relay {
  const names = [...new Set(chain.legs.map(({ leg }) => laneOf(leg.id)))];
  const laneAt = new Map(names.map((name, lane) => [name, lane]));
  const slots = new Map<string, number>();
  const slotted = chain.legs.map(({ leg, index, column }) => {
    const lane = laneAt.get(laneOf(leg.id)) ?? 0;
    const slot = slots.get(`${lane} ${column}`) ?? 0;
    slots.set(`${lane} ${column}`, slot + 1);
    return { id: leg.id, index, lane, column, slot };
  });
  const lanes = layOutLanes(names, slotted, folded);
  const placed = slotted.map(({ slot, ...leg }) => {
    const lane = lanes[leg.lane];
    const height = lane?.isFolded ? LEG.foldedHeight : LEG.height;
    return {
      ...leg,
      height,
      y: (lane?.y ?? 0) + (lane?.isFolded ? 5 : LEG.laneGap / 2) + slot * (height + (lane?.isFolded ? 4 : LEG.laneGap)),
    };
  });
  const count = Math.max(0, ...chain.legs.map(({ column }) => column + 1));
  const links = listLinks(chain, waitDaysOf);
  const { columns, wires } = routeWires(placed, links, count);
  const last = lanes.at(-1);
  return {
    ...{ lanes, wires, columns },
    legs: placed.map((leg) => ({ ...leg, x: columns[leg.column] ?? LEG.laneWidth })),
    width: (columns.at(-1) ?? LEG.laneWidth) + LEG.width + 24,
    height: last ? last.y + last.height : LEG.headHeight + 80,
  };
}

interface Slotted {
  readonly lane: number;
  readonly slot: number;
}

function layOutLanes(names: readonly string[], legs: readonly Slotted[], folded: ReadonlySet<string>): RelayLane[] {
  const own = new Map<number, Slotted[]>();
  for (const leg of legs) pushTo(own, leg.lane, leg);
  let y: number = LEG.headHeight;
  return names.map((name, lane) => {
    const mine = own.get(lane) ?? [];
    const slots = Math.max(...mine.map((leg) => leg.slot)) + 1;
    const isFolded = folded.has(name);
    const height = isFolded ? slots * (LEG.foldedHeight + 4) + 6 : slots * (LEG.height + LEG.laneGap);
    const laid = { name, y, height, legs: mine.length, isFolded };
    y += height;
    return laid;
  });
}

export interface RelayLink {
  readonly from: string;
  readonly to: string;
  readonly values: readonly string[];
  readonly waitDays: number;
}

function listLinks(chain: Chain, waitDaysOf: (id: string) => number): RelayLink[] {
  return chain.legs.flatMap(({ leg, needs, after }) =>
    after.flatMap((index): RelayLink[] => {
      const from = chain.legs[index]?.leg.id;
      if (from === undefined) return [];
      const values = needs.flatMap(({ need, source }) => (source.kind === 'leg' && source.leg === from ? [need.name] : []));
      return [{ from, to: leg.id, values, waitDays: index === Math.max(...after) ? waitDaysOf(leg.id) : 0 }];
    }),
  );
}
