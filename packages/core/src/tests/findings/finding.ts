import type { DataRow } from '../version.ts';
import type { Step } from '../step.ts';

/** How much a finding matters: a warning makes a test less believable, a note is worth knowing. */
export const TEST_FINDING_WEIGHTS = ['warning', 'note'] as const;
type TestFindingWeight = (typeof TEST_FINDING_WEIGHTS)[number];

export interface TestFinding {
  readonly rule: string;
  readonly weight: TestFindingWeight;
  /** The steps that it is about, 0-based; empty when it is about the whole test. */
  readonly steps: readonly number[];
  /** What it is about, wherever that stands, so that a waiver holds when steps move. */
  readonly about: string;
  /** What is odd, and why it matters. */
  readonly message: string;
  /** What would put it right. */
  readonly wayOut: string;
}

export interface SharedOpening {
  readonly length: number;
  /** Some of the other tests. */
  readonly tests: readonly string[];
  /** How many others there are. */
  readonly count: number;
}

/** A test and what is known around it. */
export interface ExaminedTest {
  readonly steps: readonly Step[];
  readonly rows: readonly DataRow[];
  /** How many of its first steps some attempt has reached; null when nobody has tried this version. */
  readonly reached: number | null;
  /** Keys (`toNameKey`) of the values that other tests need. */
  readonly neededElsewhere: ReadonlySet<string>;
  /** The longest opening that other tests begin with too. */
  readonly sharedOpening: SharedOpening | null;
}

/** A rule looks at one test. Adding one: a file here and a line in rules.ts. */
export interface TestFindingRule {
  readonly rule: string;
  /** A few words for lists. */
  readonly title: string;
  readonly weight: TestFindingWeight;
  readonly find: (test: ExaminedTest) => readonly Omit<TestFinding, 'rule' | 'weight'>[];
}

const SAVES =
  /\b(?:save|submit|post|send|confirm|create|approve|release|book|issue|complete|register|add|apply|finish|pay|order|close|reject|delete)\b/i;

/** A step after which the application holds something that it did not hold before. */
export const isSaving = (step: Step | undefined) => step?.do === 'press' && SAVES.test(step.target);

/** A step that looks at what the application shows. */
export const isLooking = (step: Step | undefined) =>
  step !== undefined && (step.do === 'see' || step.do === 'keep' || step.do === 'wait' || step.expect !== undefined);
