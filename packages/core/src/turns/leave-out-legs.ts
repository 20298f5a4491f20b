import type { PinnedNeed, PinnedSource } from './turn.ts';
import type { PinnedLeg } from './pin-run.ts';

/**
 * A run without some of its legs: the others move up, who waited for one waits for those before it, and what one would have given nothing
 * gives. Legs come in an order in which each stands after those it waits for. Cost O(legs × waits).
 */
export function leaveOutLegs(
  legs: readonly PinnedLeg[],
  isLeftOut: (index: number) => boolean,
): { readonly index: number; readonly leg: PinnedLeg }[] {
  const place = new Map<number, number>();
  const waits: number[][] = [];
  legs.forEach((leg, index) => {
    if (!isLeftOut(index)) place.set(index, place.size);
    waits[index] = [...new Set(leg.after.flatMap((earlier) => (place.has(earlier) ? [earlier] : (waits[earlier] ?? []))))];
  });
  const move = (source: PinnedSource): PinnedSource => {
    if (source.kind !== 'turn') return source;
    const at = place.get(source.index);
    return at === undefined ? { kind: 'none' } : { ...source, index: at };
  };
  return legs.flatMap((leg, index) =>
    isLeftOut(index)
      ? []
      : [
          {
            index,
            leg: {
              ...leg,
              after: (waits[index] ?? []).flatMap((earlier) => place.get(earlier) ?? []).sort((a, b) => a - b),
              needs: leg.needs.map((need): PinnedNeed => ({ ...need, source: move(need.source) })),
            },
          },
        ],
  );
}
