import type { FacetName } from '@kindred-baton/core/progress/facet';
import type { SQL, SQLWrapper } from 'drizzle-orm';
import type { TreeNode, Tree } from '../../map/load-tree.ts';
import type { ReadContext } from '../../operation.ts';
import type { TurnFilter } from '../filter-turns.ts';

export interface FacetValue {
  /** What the list of turns is filtered by. */
  readonly key: string;
  readonly name: string;
  readonly group: string;
  readonly order: number;
}

export interface FacetPlace {
  readonly tree: Tree;
  /** The node that is looked at; null: the whole map. */
  readonly scope: TreeNode | null;
  /** What may be joined under, so that rows and columns do not take each other's name. */
  readonly as: SQL;
}

/** A facet, ready to count by: turns, their runs, cycles and tests are joined already. */
export interface LoadedFacet {
  /** As which facet it is told: where a process has nothing below it, its tests. */
  readonly facet: FacetName;
  readonly value: SQLWrapper;
  readonly join?: SQL;
  /** A turn can have several values: it counts under each. */
  readonly isMany?: true;
  /** How a value is shown; empty: there is none. */
  readonly read: (value: string) => FacetValue;
}

export interface TurnFacet {
  readonly load: (context: ReadContext, place: FacetPlace) => Promise<LoadedFacet>;
  /** Which turns have a value: what the count of a row or column opens. */
  readonly filter: TurnFilter;
}

export const toValue = (key: string, order = 0): FacetValue => ({ key, name: key, group: '', order });

/** Turns that have no value there, named so, behind all others. */
export const toNone = (name: string): FacetValue => ({ key: '', name, group: '', order: Number.MAX_SAFE_INTEGER });

interface Named {
  readonly id: string;
  readonly name: string;
  /** What it is found by; left out: its name. */
  readonly key?: string;
}

/** The order in which names come is the order in which they are shown. */
export async function readNamed(rows: PromiseLike<readonly Named[]>, none: string): Promise<LoadedFacet['read']> {
  const values = new Map((await rows).map(({ id, name, key = name }, order) => [id, { key, name, group: '', order }]));
  return (id) => values.get(id) ?? toNone(none);
}
