import type { Route } from '@kindred-baton/contracts/route';

export interface FoundRoute<Name extends string> {
  readonly name: Name;
  /** As they stand in the address. */
  readonly params: Readonly<Record<string, string>>;
}

/**
 * The route of a method and a path under /api/<programme>; undefined where there is none. Of two that fit, the one with fewer parameters: /turns/list
 * is no turn. Cost O(routes).
 */
export function findRoute<Name extends string>(
  routes: Readonly<Record<Name, Pick<Route, 'method' | 'path'>>>,
  method: string,
  path: string,
): FoundRoute<Name> | undefined {
  const wanted = toParts(path);
  let best: FoundRoute<Name> | undefined;
  for (const name of Object.keys(routes) as Name[]) {
    const route = routes[name];
    const params = route.method === method ? match(toParts(route.path), wanted) : undefined;
    if (params && (!best || Object.keys(params).length < Object.keys(best.params).length)) best = { name, params };
  }
  return best;
}

const toParts = (path: string) => path.split('/').filter((part) => part !== '');

function match(pattern: readonly string[], parts: readonly string[]): Record<string, string> | undefined {
  if (pattern.length !== parts.length) return undefined;
  const params: Record<string, string> = {};
  for (const [index, part] of pattern.entries()) {
    const given = parts[index] ?? '';
    if (part.startsWith(':')) params[part.slice(1)] = given;
    else if (part !== given) return undefined;
  }
  return params;
}
