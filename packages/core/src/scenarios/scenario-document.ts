import type { ClassSetup } from '../rows/row-model.ts';
import type { Field } from '../values/field.ts';
import type { Wire } from './chain.ts';

/** A leg as it is edited and kept. Other legs are named by their ids. */
export interface LegDocument {
  readonly id: string;
  /** Code of the test it links to; null: an open leg. */
  readonly test: string | null;
  /** The version it is drawn with; null: the newest agreed one. */
  readonly version: number | null;
  /** Its words; null: those of the test. */
  readonly title: string | null;
  /** Id of its own lane; null: the test's team. */
  readonly team: string | null;
  /** Id of the persona that does it; null: whatever the steps say. */
  readonly persona: string | null;
  /** Legs that must be over first; null: the leg before it. */
  readonly after: readonly string[] | null;
  readonly wires: readonly Wire[];
  /** Calendar days that pass before it can start. */
  readonly waitDays: number;
  readonly samePersonAs: string | null;
  readonly otherPersonThan: readonly string[];
  /** What testers should know. */
  readonly note: string;
  /** What an open leg is to need and to give. */
  readonly needs: readonly Field[];
  readonly gives: readonly Field[];
}

export interface RowDocument {
  readonly id: string;
  readonly name: string;
  readonly values: Readonly<Record<string, string>>;
}

export interface ScenarioDocument {
  readonly legs: readonly LegDocument[];
  readonly columns: readonly Field[];
  readonly rows: readonly RowDocument[];
  /** How rows are made from classes; null: they are typed. */
  readonly classes: ClassSetup | null;
}

/** A scenario that has just begun. */
export const EMPTY_DOCUMENT: ScenarioDocument = { legs: [], columns: [], rows: [], classes: null };

export function createLeg(leg: Partial<LegDocument> & Pick<LegDocument, 'id'>): LegDocument {
  return {
    ...{ test: null, version: null, title: null, team: null, persona: null, after: null, wires: [], waitDays: 0 },
    ...{ samePersonAs: null, otherPersonThan: [], note: '', needs: [], gives: [] },
    ...leg,
  };
}
