import { toNameKey } from '../values/field.ts';
import type { Chain } from './chain.ts';

export interface Way {
  /** Ids of the legs on the way. */
  readonly legs: ReadonlySet<string>;
  /** The wires on it, as “from to”. */
  readonly wires: ReadonlySet<string>;
}

/**
 * The whole way through the chain of what a leg takes and hands on: everything that reaches it and everything that it reaches over
 * hand-overs. With a value: that output alone, to all who take it, and on under whatever name it is given again. Cost O(needs of the chain).
 */
export function traceWay(chain: Chain, start: string, value?: string): Way {
  const handOvers = chain.legs.flatMap(({ leg, needs }) =>
    needs.flatMap(({ source }) => (source.kind === 'leg' ? [{ from: source.leg, to: leg.id, value: toNameKey(source.field.name) }] : [])),
  );
  const legs = new Set([start]);
  const wires = new Set<string>();
  const follow = (isForward: boolean) => {
    const stack = [start];
    const seen = new Set(stack);
    for (let at = stack.pop(); at !== undefined; at = stack.pop()) {
      for (const { from, to, value: name } of handOvers) {
        if ((isForward ? from : to) !== at || (value !== undefined && name !== toNameKey(value))) continue;
        const next = isForward ? to : from;
        wires.add(`${from} ${to}`);
        legs.add(next);
        if (seen.has(next)) continue;
        seen.add(next);
        stack.push(next);
      }
    }
  };
  follow(true);
  if (value === undefined) follow(false);
  return { legs, wires };
}
