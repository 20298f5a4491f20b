import type { Outcome, StepOutcome, TurnState, TurnStatus } from '../outcomes.ts';
import type { Step } from '../tests/step.ts';
import type { Field } from '../values/field.ts';

/** Where a pinned need of a turn gets its value; turns are named by their place in the run. */
export type PinnedSource =
  /** `convertTo`: the value is brought into this type when it is taken. */
  | { readonly kind: 'turn'; readonly index: number; readonly name: string; readonly convertTo?: Field | undefined }
  | { readonly kind: 'value'; readonly value: string; readonly from: 'row' | 'fixed' | 'own' }
  | { readonly kind: 'new'; readonly pattern: string }
  | { readonly kind: 'none' };

export interface PinnedNeed {
  readonly name: string;
  readonly source: PinnedSource;
  /** Without it the turn can be done all the same: it waits for whoever gives it, and is not held where nothing came. */
  readonly isOptional?: true;
}

/** “Do it, say how it went”: a turn whose leg has no agreed test. */
export interface BareTurn {
  readonly steps: readonly Step[];
  readonly gives: readonly Field[];
}

/** One leg of one run as the assessment sees it. */
export interface TurnView {
  readonly after: readonly number[];
  readonly needs: readonly PinnedNeed[];
  /** The newest finished attempt: its outcome and the values it kept. */
  readonly latest: { readonly outcome: StepOutcome; readonly kept: Readonly<Record<string, string>> } | null;
  readonly isUnderWay: boolean;
  /** It failed or was blocked, and may now be tried again. */
  readonly isRetestDue: boolean;
  /** Its run was taken out of the cycle's scope: what nobody has tried is skipped. */
  readonly isLeftOut?: boolean;
}

export type HoldCause =
  | { readonly kind: 'turn'; readonly index: number; readonly outcome: 'failed' | 'blocked' }
  | { readonly kind: 'value'; readonly index: number | null; readonly name: string };

export interface TurnAssessment {
  readonly state: TurnState;
  readonly outcome: Outcome;
  readonly status: TurnStatus;
  /** Why a waiting turn is held; empty when it only waits for its place in the chain. */
  readonly causes: readonly HoldCause[];
}
