import { pushTo } from '../push-to.ts';
import type { Chain } from './chain.ts';
import type { Relay, RelayLane, RelayLink } from './relay.ts';
import { LEG } from './relay.ts';
import { routeWires } from './route-wires.ts';

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
