/** What the sheets of a lead's workbook say, row by row, once their cells are read. What an empty cell says nothing of is null. */
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
  readonly isCritical: boolean | null;
  readonly description: string | null;
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
  readonly minutes: number | null;
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

export interface WorkbookSheets {
  readonly nodes: readonly ImportedNode[];
  readonly tests: readonly ImportedTest[];
  readonly fields: readonly ImportedField[];
  readonly scenarios: readonly ImportedScenario[];
  readonly rows: readonly ImportedRow[];
}
