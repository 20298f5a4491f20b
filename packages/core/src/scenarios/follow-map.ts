import { pushTo } from '../push-to.ts';

/** A node of the map in map order, parents first. */
export interface MapPlace {
  readonly id: string;
  readonly parentId: string | null;
  readonly code: string;
  readonly name: string;
  readonly isRetired: boolean;
}

export interface FollowedLeg {
  /** 0-based. */
  readonly index: number;
  readonly title: string;
  /** The node of its test; null: an open leg. */
  readonly nodeId: string | null;
}

interface FollowedActivity {
  readonly node: MapPlace;
  /** Legs here, 0-based; none: the scenario passes the process and leaves this out. */
  readonly legs: readonly number[];
}

export interface FollowedProcess {
  readonly node: MapPlace;
  readonly activities: readonly FollowedActivity[];
  /** What the map says differs: legs that come before what the map has first. */
  readonly reversals: readonly { readonly leg: number; readonly after: number }[];
}

/**
 * The way of a scenario over the map: the processes it passes in the order of its legs, of each all activities in the map's order with the
 * legs that are there, those it leaves out, and where its order differs from the map's. Cost O(nodes + legs × legs of a process).
 */
export function followMap(legs: readonly FollowedLeg[], places: readonly MapPlace[]): FollowedProcess[] {
  const byId = new Map(places.map((place) => [place.id, place]));
  const orderOf = new Map(places.map((place, order) => [place.id, order]));
  const childrenOf = new Map<string, MapPlace[]>();
  for (const place of places) if (place.parentId !== null) pushTo(childrenOf, place.parentId, place);
  const legsOf = new Map<string, FollowedLeg[]>();
  for (const leg of legs) {
    const node = leg.nodeId === null ? undefined : byId.get(leg.nodeId);
    if (node) pushTo(legsOf, node.parentId ?? node.id, leg);
  }
  return [...legsOf].flatMap(([id, own]): FollowedProcess[] => {
    const node = byId.get(id);
    if (!node) return [];
    const activities = [node, ...(childrenOf.get(id) ?? [])]
      .map((activity) => ({ node: activity, legs: own.filter((leg) => leg.nodeId === activity.id).map(({ index }) => index) }))
      .filter((activity) => activity.legs.length > 0 || (activity.node.id !== id && !activity.node.isRetired));
    return [{ node, activities, reversals: findReversals(own, orderOf) }];
  });
}

function findReversals(legs: readonly FollowedLeg[], orderOf: ReadonlyMap<string, number>): FollowedProcess['reversals'] {
  const placeOf = (leg: FollowedLeg) => orderOf.get(leg.nodeId ?? '') ?? 0;
  return legs.flatMap((leg, at) => {
    const before = legs[at - 1];
    return before && placeOf(leg) < placeOf(before) ? [{ leg: leg.index, after: before.index }] : [];
  });
}

export interface MapGaps {
  /** Top nodes through which no scenario goes. */
  readonly streams: readonly MapPlace[];
  /** Lowest nodes at which no leg of a scenario stands. */
  readonly activities: readonly MapPlace[];
}

/** What no scenario reaches. `reached` are the nodes of all legs. Cost O(nodes × depth). */
export function findMapGaps(places: readonly MapPlace[], reached: ReadonlySet<string>): MapGaps {
  const byId = new Map(places.map((place) => [place.id, place]));
  const touched = new Set<string>();
  for (const id of reached) for (let at = byId.get(id); at && !touched.has(at.id); at = byId.get(at.parentId ?? '')) touched.add(at.id);
  const parents = new Set(places.map(({ parentId }) => parentId));
  const open = places.filter(({ id, isRetired }) => !isRetired && !touched.has(id));
  return {
    streams: open.filter(({ parentId }) => parentId === null),
    activities: open.filter(({ id, parentId }) => parentId !== null && !parents.has(id)),
  };
}
