import type { Field } from '../values/field.ts';
import { isCompatible, toNameKey } from '../values/field.ts';
import type { Chain, LegView, NeedSource, WiredLeg, WiredNeed, WireSource } from './chain.ts';
import { layOutColumns } from '../graph/lay-out-columns.ts';

interface Giver {
  readonly index: number;
  readonly leg: string;
  readonly field: Field;
}

interface Lookup {
  readonly givers: ReadonlyMap<string, readonly Giver[]>;
  readonly columns: ReadonlyMap<string, Field>;
  readonly indexOf: ReadonlyMap<string, number>;
}

/**
 * Wires a scenario: each need from what was set by hand, else from the nearest earlier output with that name and a
 * compatible type, else from the row's column, else from the test's own row. `columns` are the scenario row's inputs.
 * Cost O(legs + needs × givers of the same name).
 */
export function wireChain(legs: readonly LegView[], columns: readonly Field[] = []): Chain {
  const lookup = createLookup(legs, columns);
  const needs = legs.map((leg, index) => leg.needs.map((need) => wireNeed({ leg, index, need }, lookup)));
  const after = legs.map((leg, index) => findPredecessors(leg, index, needs[index] ?? [], lookup));
  const { columnOf, cyclic } = layOutColumns(after);
  const wired: WiredLeg[] = legs.map((leg, index) => ({
    leg,
    index,
    needs: needs[index] ?? [],
    after: after[index] ?? [],
    column: columnOf[index] ?? index,
  }));
  return { legs: wired, columns, cyclic };
}

function createLookup(legs: readonly LegView[], columns: readonly Field[]): Lookup {
  const givers = new Map<string, Giver[]>();
  legs.forEach((leg, index) => {
    for (const field of leg.gives) {
      const key = toNameKey(field.name);
      const list = givers.get(key) ?? [];
      list.push({ index, leg: leg.id, field });
      givers.set(key, list);
    }
  });
  return {
    givers,
    columns: new Map(columns.map((column) => [toNameKey(column.name), column])),
    indexOf: new Map(legs.map((leg, index) => [leg.id, index])),
  };
}

interface Need {
  readonly leg: LegView;
  readonly index: number;
  readonly need: Field;
}

function wireNeed(at: Need, lookup: Lookup): WiredNeed {
  const key = toNameKey(at.need.name);
  const wire = at.leg.wires?.find((candidate) => toNameKey(candidate.need) === key);
  const source = wire ? followWire(at, wire.from, lookup) : findSource(at, lookup);
  return { need: at.need, source, isByHand: wire !== undefined };
}

function followWire(at: Need, wire: WireSource, lookup: Lookup): NeedSource {
  if (wire.kind === 'fixed' || wire.kind === 'new') return wire;
  if (wire.kind === 'column') {
    const field = lookup.columns.get(toNameKey(wire.column));
    return field ? { kind: 'column', field } : { kind: 'lost', wire };
  }
  const giver = lookup.givers.get(toNameKey(wire.gives))?.find((candidate) => candidate.leg === wire.leg);
  if (!giver) return { kind: 'lost', wire };
  if (giver.index >= at.index) return { kind: 'later', leg: giver.leg, field: giver.field };
  const isFit = isCompatible(giver.field, at.need);
  if (!isFit && wire.convert !== true) return { kind: 'mismatch', leg: giver.leg, field: giver.field };
  return { kind: 'leg', leg: giver.leg, field: giver.field, passedOver: [], isConverted: !isFit };
}

function findSource(at: Need, lookup: Lookup): NeedSource {
  const key = toNameKey(at.need.name);
  const givers = lookup.givers.get(key) ?? [];
  const earlier = givers.filter((giver) => giver.index < at.index);
  const fitting = earlier.filter((giver) => isCompatible(giver.field, at.need));
  const nearest = fitting.at(-1);
  if (nearest) {
    // A leg that gives a name twice is one giver.
    const passedOver = [...new Set(fitting.map((giver) => giver.leg))].filter((leg) => leg !== nearest.leg);
    return { kind: 'leg', leg: nearest.leg, field: nearest.field, passedOver, isConverted: false };
  }
  const column = lookup.columns.get(key);
  if (column) return { kind: 'column', field: column };
  const own = findOwnValue(at.leg, key);
  if (own !== undefined) return { kind: 'own', value: own };
  const clash = earlier.at(-1);
  if (clash) return { kind: 'mismatch', leg: clash.leg, field: clash.field };
  const later = givers.find((giver) => giver.index > at.index);
  return later ? { kind: 'later', leg: later.leg, field: later.field } : { kind: 'none' };
}

function findOwnValue(leg: LegView, key: string): string | undefined {
  for (const [name, value] of Object.entries(leg.ownValues ?? {})) if (toNameKey(name) === key && value !== '') return value;
  return undefined;
}

/** Predecessors: the legs named in `after` (by default the leg before), and every leg that hands a value over. */
function findPredecessors(leg: LegView, index: number, needs: readonly WiredNeed[], lookup: Lookup): number[] {
  const found = new Set<number>();
  if (leg.after === undefined) {
    if (index > 0) found.add(index - 1);
  } else {
    for (const id of leg.after) addIndex(found, lookup.indexOf.get(id));
  }
  for (const { source } of needs) {
    if (source.kind === 'leg') addIndex(found, lookup.indexOf.get(source.leg));
  }
  return [...found].sort((a, b) => a - b);
}

function addIndex(found: Set<number>, index: number | undefined): void {
  if (index !== undefined) found.add(index);
}
