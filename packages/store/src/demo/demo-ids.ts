import type { Id } from '@kindred-baton/core/ids';

/** Ids that come out the same each time the demo is laid: UUIDs of version 4's shape from a seeded source. */
export function createDemoIds(random: () => number): <Kind extends string>() => Id<Kind> {
  const hex = (digits: number) => Array.from({ length: digits }, () => Math.floor(random() * 16).toString(16)).join('');
  return <Kind extends string>() => `${hex(8)}-${hex(4)}-4${hex(3)}-a${hex(3)}-${hex(12)}` as Id<Kind>;
}
