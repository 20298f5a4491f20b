import type { Chain } from '@kindred-baton/core/scenarios/chain';

export interface RelayLeg {
  readonly id: string;
  readonly index: number;
  readonly lane: number;
  readonly x: number;
  readonly y: number;
}

interface RelayLane {
  readonly name: string;
  readonly legs: number;
  readonly y: number;
  readonly height: number;
}

export interface RelayWire {
  readonly key: string;
  readonly from: string;
  readonly to: string;
  /** The values that are handed over; none: the one only waits for the other. */
  readonly values: readonly string[];
  readonly path: string;
}

export interface Relay {
  readonly lanes: readonly RelayLane[];
  readonly legs: readonly RelayLeg[];
  readonly wires: readonly RelayWire[];
  readonly columns: number;
  readonly width: number;
  readonly height: number;
}

export const LEG = { width: 98, height: 54, columnWidth: 112, laneWidth: 124, laneGap: 20, headHeight: 40 } as const;

/**
 * Lays a wired chain out as a relay: a row per lane in order of first use, a column per step of the longest path; legs of one
 * lane in one column stand below one another. Cost O(legs + wires).
 */
export function layOutRelay(chain: Chain, laneOf: (id: string) => string): Relay {
  const names = [...new Set(chain.legs.map(({ leg }) => laneOf(leg.id)))];
  const slots = new Map<string, number>();
  const slotted = chain.legs.map(({ leg, index, column }) => {
    const lane = names.indexOf(laneOf(leg.id));
    const slot = slots.get(`${lane} ${column}`) ?? 0;
    slots.set(`${lane} ${column}`, slot + 1);
    return { id: leg.id, index, lane, column, slot };
  });
  const lanes = layOutLanes(names, slotted);
  const legs = slotted.map(({ id, index, lane, column, slot }) => ({
    ...{ id, index, lane },
    x: LEG.laneWidth + column * LEG.columnWidth,
    y: (lanes[lane]?.y ?? 0) + LEG.laneGap / 2 + slot * (LEG.height + LEG.laneGap),
  }));
  const columns = Math.max(0, ...chain.legs.map(({ column }) => column + 1));
  const last = lanes.at(-1);
  return {
    ...{ lanes, legs, columns, wires: drawWires(chain, legs) },
    width: LEG.laneWidth + columns * LEG.columnWidth + 12,
    height: last ? last.y + last.height : LEG.headHeight + 80,
  };
}

function layOutLanes(names: readonly string[], legs: readonly { lane: number; slot: number }[]): RelayLane[] {
  let y: number = LEG.headHeight;
  return names.map((name, lane) => {
    const own = legs.filter((leg) => leg.lane === lane);
    const slots = Math.max(...own.map((leg) => leg.slot)) + 1;
    const height = slots * (LEG.height + LEG.laneGap);
    const laid = { name, y, height, legs: own.length };
    y += height;
    return laid;
  });
}

function drawWires(chain: Chain, legs: readonly RelayLeg[]): RelayWire[] {
  const placeOf = new Map(legs.map((leg) => [leg.id, leg]));
  return chain.legs.flatMap(({ leg, needs, after }) =>
    after.flatMap((index): RelayWire[] => {
      const from = chain.legs[index]?.leg.id ?? '';
      const [a, b] = [placeOf.get(from), placeOf.get(leg.id)];
      if (!a || !b) return [];
      const values = needs.flatMap(({ need, source }) => (source.kind === 'leg' && source.leg === from ? [need.name] : []));
      return [{ key: `${from} ${leg.id}`, from, to: leg.id, values, path: drawPath(a, b) }];
    }),
  );
}

/** From the right edge of one leg, along the gap beside it, to the left edge of the other. */
function drawPath(from: RelayLeg, to: RelayLeg): string {
  const [x1, y1] = [from.x + LEG.width, from.y + LEG.height / 2];
  const [x2, y2] = [to.x, to.y + LEG.height / 2];
  if (Math.abs(y1 - y2) < 1) return `M${x1} ${y1}H${x2}`;
  const bend = (LEG.columnWidth - LEG.width) / 2;
  const turn = x1 + bend;
  const down = Math.sign(y2 - y1) * Math.min(18, Math.abs(y2 - y1) / 2);
  return `M${x1} ${y1}Q${turn} ${y1} ${turn} ${y1 + down}V${y2 - down}Q${turn} ${y2} ${turn + bend} ${y2}H${x2}`;
}
