/**
 * A scenario as a chain of legs (design: chain). Wiring decides for every need of every leg where its value comes
 * from; the edges that follow make a directed acyclic graph, whose layers are the columns of the relay.
 */
import type { Field } from '../values/field.ts';

export interface LegView {
  readonly id: string;
  readonly title: string;
  /** An open leg has no test yet. */
  readonly isOpen: boolean;
  readonly needs: readonly Field[];
  readonly gives: readonly Field[];
  /** Values that the test's own data row supplies when nothing else does, by name. */
  readonly ownValues?: Readonly<Record<string, string>> | undefined;
  /** Legs that must be over before this one; undefined: the leg before it. */
  readonly after?: readonly string[] | undefined;
  /** Sources set by hand; what is not named is wired automatically. */
  readonly wires?: readonly Wire[] | undefined;
  /** Its lane. */
  readonly team?: string | null | undefined;
  readonly samePersonAs?: string | null | undefined;
  readonly otherPersonThan?: readonly string[] | undefined;
  /** Its test is retired: nothing new should be built on it. */
  readonly isRetired?: boolean | undefined;
  /** Where the leg's test sits on the map: its parent and its place in map order. */
  readonly place?: { readonly parent: string; readonly order: number } | undefined;
}

export interface Wire {
  readonly need: string;
  readonly from: WireSource;
}

export type WireSource =
  /** `convert`: the value is brought into the type that is needed (values/convert-value.ts). */
  | { readonly kind: 'leg'; readonly leg: string; readonly gives: string; readonly convert?: boolean | undefined }
  | { readonly kind: 'column'; readonly column: string }
  | { readonly kind: 'fixed'; readonly value: string }
  | { readonly kind: 'new'; readonly pattern: string };

/** Where a need's value comes from once it is wired. */
export type NeedSource =
  | {
      readonly kind: 'leg';
      readonly leg: string;
      readonly field: Field;
      /** Earlier legs that give the name too. */
      readonly passedOver: readonly string[];
      readonly isConverted: boolean;
    }
  | { readonly kind: 'column'; readonly field: Field }
  | { readonly kind: 'fixed'; readonly value: string }
  | { readonly kind: 'new'; readonly pattern: string }
  | { readonly kind: 'own'; readonly value: string }
  | { readonly kind: 'mismatch'; readonly leg: string; readonly field: Field }
  | { readonly kind: 'later'; readonly leg: string; readonly field: Field }
  | { readonly kind: 'lost'; readonly wire: WireSource }
  | { readonly kind: 'none' };

export interface WiredNeed {
  readonly need: Field;
  readonly source: NeedSource;
  readonly isByHand: boolean;
}

export interface WiredLeg {
  readonly leg: LegView;
  /** 0-based place in the scenario. */
  readonly index: number;
  readonly needs: readonly WiredNeed[];
  /** Indexes of the legs that must be over first, ascending. */
  readonly after: readonly number[];
  /** The column of the relay, 0-based: one more than the latest of `after`. */
  readonly column: number;
}

export interface Chain {
  readonly legs: readonly WiredLeg[];
  readonly columns: readonly Field[];
  /** Legs that wait for one another and can therefore never start, as indexes; empty when all is well. */
  readonly cyclic: readonly number[];
}
