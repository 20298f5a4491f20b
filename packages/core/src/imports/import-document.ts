/** What a lead's workbook says, once its cells are read, and what is wrong with it. Rows and columns as the person sees them. */
import type { Step } from '../tests/step.ts';
import type { Place } from '../tables/place.ts';
import type { Field } from '../values/field.ts';

export interface ImportedNode {
  readonly place: Place;
  readonly code: string;
  readonly name: string;
  readonly parent: string | null;
  readonly team: string | null;
  readonly application: string | null;
  readonly isCritical: boolean;
  readonly description: string;
}

export interface ImportedStep {
  readonly place: Place;
  readonly step: Step;
}

export interface ImportedTest {
  readonly place: Place;
  readonly code: string;
  readonly name: string;
  readonly activity: string;
  readonly team: string | null;
  readonly application: string | null;
  readonly minutes: number;
  readonly steps: readonly ImportedStep[];
}

/** The type of a value that a test needs or gives; what is not listed is guessed from its name. */
export interface ImportedField {
  readonly place: Place;
  readonly test: string;
  readonly field: Field;
}

export interface ImportedLeg {
  readonly place: Place;
  /** A test's code; null for an open leg. */
  readonly test: string | null;
  readonly title: string;
  readonly team: string | null;
}

export interface ImportedScenario {
  readonly place: Place;
  readonly code: string;
  readonly name: string;
  readonly process: string;
  readonly legs: readonly ImportedLeg[];
}

export interface ImportedRow {
  readonly place: Place;
  readonly scenario: string;
  readonly name: string;
  readonly values: Readonly<Record<string, string>>;
}

export interface ImportDocument {
  readonly nodes: readonly ImportedNode[];
  readonly tests: readonly ImportedTest[];
  readonly fields: readonly ImportedField[];
  readonly scenarios: readonly ImportedScenario[];
  readonly rows: readonly ImportedRow[];
}

/** What the programme has already, by code or name. */
export interface ImportSurroundings {
  readonly nodes: readonly { readonly code: string; readonly name: string; readonly parent: string | null }[];
  /** Each with the steps of its newest version. */
  readonly tests: readonly { readonly code: string; readonly name: string; readonly steps: readonly Step[] }[];
  readonly scenarios: readonly { readonly code: string; readonly name: string }[];
  readonly teams: readonly string[];
  readonly applications: readonly string[];
  readonly levels: number;
}
