import { pushTo } from '../push-to.ts';
import type { RelayLeg, RelayLink, RelayWire } from './relay.ts';
import { LEG } from './relay.ts';

type Placed = Omit<RelayLeg, 'x'>;

/** Wires that leave a leg, or arrive at one, share an upright piece in a gap between two columns. */
interface Trunk {
  readonly key: string;
  readonly gap: number;
  from: number;
  to: number;
}

interface Route {
  readonly link: RelayLink;
  readonly a: Placed;
  readonly b: Placed;
  /** The gap behind the first leg, the gap before the second; the same: the wire goes straight across. */
  readonly out: number;
  readonly into: number;
  /** Height at which a long wire goes along, above the leg where it arrives. */
  readonly along: number;
}

/** Pieces closer than this would look like one. */
const APART = 6;
const TRACK = 3;
const BEND = 7;

/**
 * Draws hand-overs: out of the right edge, upright in the gap between columns, where need be along above the row of the leg where they arrive,
 * and into its left edge. Upright pieces of one gap that overlap get channels of their own (left-edge algorithm, A. Hashimoto and J. Stevens
 * 1971; from memory), and the gap is made as wide as they need. Cost O(wires log wires).
 */
export function routeWires(legs: readonly Placed[], links: readonly RelayLink[], count: number): { columns: number[]; wires: RelayWire[] } {
  const byId = new Map(legs.map((leg) => [leg.id, leg]));
  const routes = layTracks(links.flatMap((link) => toRoute(link, byId)));
  const trunks = listTrunks(routes);
  const channels = assignChannels(trunks);
  const columns: number[] = [];
  let x: number = LEG.laneWidth;
  for (let column = 0; column < count; column += 1) {
    columns.push(x);
    x += LEG.width + gapWidth(channels.countOf.get(column) ?? 0);
  }
  const channelX = (gap: number, key: string) => {
    const start = gap < 0 ? LEG.laneWidth - gapWidth(0) : (columns[gap] ?? LEG.laneWidth) + LEG.width;
    const many = channels.countOf.get(gap) ?? 0;
    return start + (gapWidth(many) * ((channels.channelOf.get(`${gap} ${key}`) ?? 0) + 1)) / (many + 1);
  };
  return { columns, wires: routes.map((route) => drawWire(route, columns, channelX)) };
}

const gapWidth = (channels: number) => Math.max(LEG.leastGap, (channels + 1) * LEG.channel);
const middle = ({ y, height }: Placed) => y + height / 2;

function toRoute(link: RelayLink, byId: ReadonlyMap<string, Placed>): Route[] {
  const [a, b] = [byId.get(link.from), byId.get(link.to)];
  if (!a || !b) return [];
  return [{ link, a, b, out: a.column, into: b.column - 1, along: b.y - (b.height === LEG.height ? LEG.laneGap / 2 : 3) }];
}

/** Long wires of one height get tracks of their own where they run side by side. */
function layTracks(routes: readonly Route[]): Route[] {
  const ends = new Map<string, number[]>();
  return [...routes]
    .sort((r, s) => r.out - s.out)
    .map((route) => {
      if (route.out === route.into) return route;
      const key = String(route.along);
      const taken = ends.get(key) ?? [];
      const free = taken.findIndex((end) => end < Math.min(route.out, route.into));
      const track = free < 0 ? taken.length : free;
      taken[track] = Math.max(route.out, route.into);
      ends.set(key, taken);
      const side = track % 2 === 0 ? track / 2 : -(track + 1) / 2;
      return { ...route, along: route.along + Math.max(-3, Math.min(3, side)) * TRACK };
    });
}

function listTrunks(routes: readonly Route[]): Map<string, Trunk> {
  const trunks = new Map<string, Trunk>();
  const add = (gap: number, key: string, heights: readonly number[]) => {
    const id = `${gap} ${key}`;
    const known = trunks.get(id);
    const [from, to] = [Math.min(...heights), Math.max(...heights)];
    if (known) {
      known.from = Math.min(known.from, from);
      known.to = Math.max(known.to, to);
    } else trunks.set(id, { key, gap, from, to });
  };
  for (const { a, b, out, into, along } of routes) {
    if (out === into) {
      if (Math.abs(middle(a) - middle(b)) >= 1) add(out, `out ${a.id}`, [middle(a), middle(b)]);
      continue;
    }
    add(out, `out ${a.id}`, [middle(a), along]);
    add(into, `in ${b.id}`, [along, middle(b)]);
  }
  return trunks;
}

function assignChannels(trunks: ReadonlyMap<string, Trunk>): { channelOf: Map<string, number>; countOf: Map<number, number> } {
  const byGap = new Map<number, Trunk[]>();
  for (const trunk of trunks.values()) pushTo(byGap, trunk.gap, trunk);
  const channelOf = new Map<string, number>();
  const countOf = new Map<number, number>();
  for (const [gap, own] of byGap) {
    const ends: number[] = [];
    for (const trunk of own.sort((a, b) => a.from - b.from)) {
      const free = ends.findIndex((end) => end + APART < trunk.from);
      const channel = free < 0 ? ends.length : free;
      ends[channel] = trunk.to;
      channelOf.set(`${gap} ${trunk.key}`, channel);
    }
    countOf.set(gap, ends.length);
  }
  return { channelOf, countOf };
}

type Point = readonly [x: number, y: number];

function drawWire(route: Route, columns: readonly number[], channelX: (gap: number, key: string) => number): RelayWire {
  const { link, a, b, out, into, along } = route;
  const [x1, y1, x2, y2] = [(columns[a.column] ?? 0) + LEG.width, middle(a), columns[b.column] ?? 0, middle(b)];
  const leaves = channelX(out, `out ${a.id}`);
  const points: Point[] =
    out === into
      ? [
          [leaves, y1],
          [leaves, y2],
        ]
      : [
          [leaves, y1],
          [leaves, along],
          [channelX(into, `in ${b.id}`), along],
          [channelX(into, `in ${b.id}`), y2],
        ];
  const whole: Point[] = [[x1, y1], ...(Math.abs(y1 - y2) < 1 && out === into ? [] : points), [x2, y2]];
  return { ...link, key: `${link.from} ${link.to}`, points: whole, path: drawPath(whole) };
}

/** A line through points with rounded corners. */
function drawPath(points: readonly Point[]): string {
  const round = (value: number) => Math.round(value * 10) / 10;
  const [start = [0, 0]] = points;
  const parts = [`M${round(start[0])} ${round(start[1])}`];
  for (let i = 1; i < points.length; i += 1) {
    const [before = start, at = start, next] = [points[i - 1], points[i], points[i + 1]];
    if (!next) {
      parts.push(`L${round(at[0])} ${round(at[1])}`);
      continue;
    }
    const bend = Math.min(BEND, distance(before, at) / 2, distance(at, next) / 2);
    const [into, out] = [towards(at, before, bend), towards(at, next, bend)];
    parts.push(`L${round(into[0])} ${round(into[1])}Q${round(at[0])} ${round(at[1])} ${round(out[0])} ${round(out[1])}`);
  }
  return parts.join('');
}

const distance = (a: Point, b: Point) => Math.hypot(a[0] - b[0], a[1] - b[1]);

function towards(from: Point, to: Point, by: number): Point {
  const whole = distance(from, to);
  return whole === 0 ? from : [from[0] + ((to[0] - from[0]) * by) / whole, from[1] + ((to[1] - from[1]) * by) / whole];
}
