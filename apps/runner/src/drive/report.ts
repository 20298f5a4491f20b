import type { Box } from '@kindred-baton/core/screens/capture';

/** What came of one step: only what was obtained. */
export interface StepReport {
  readonly index: number;
  /** *failed*: the application answered otherwise than expected; *blocked*: the step could not be done. */
  readonly outcome: 'passed' | 'failed' | 'blocked' | 'skipped';
  readonly expected: string;
  readonly actual: string;
  /** What of the expected result only a person can judge; it was not looked at. */
  readonly left: string;
  readonly note: string;
  readonly kept: Readonly<Record<string, string>>;
  /** Where the thing stood that was used. */
  readonly place: Box | null;
  readonly tookMs: number;
}

export interface TestReport {
  /** *stopped*: whoever gave it took it back. */
  readonly outcome: 'passed' | 'failed' | 'blocked' | 'stopped';
  readonly steps: readonly StepReport[];
  readonly kept: Readonly<Record<string, string>>;
}

/** What came of a step, before it has its place and time. */
export type Came = Omit<StepReport, 'index' | 'tookMs'>;
export const PLAIN = { expected: '', actual: '', left: '', note: '', kept: {}, place: null } as const;
