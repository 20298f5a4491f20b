import type { LeavingWay } from '../../cycles/cycle.ts';
import type { DefectStatus } from '../../defects/defect.ts';
import type { AttemptId, DefectId, PersonId, RunId, TeamId, TestVersionId, TurnId } from '../../ids.ts';
import type { PinnedNeed } from '../turn.ts';
import type { Doer, RunsState } from './runs-state.ts';

/** Whoever a turn goes to. */
export interface Receiver {
  readonly personId: PersonId;
  readonly teams: readonly TeamId[];
  /** A pool of runners. */
  readonly isPool: boolean;
}

/** All that may happen to runs. */
export type RunEvent =
  | {
      readonly kind: 'begin';
      readonly turn: TurnId;
      readonly attempt: AttemptId;
      readonly environment: string;
      readonly browser: string;
      readonly isFromSheet: boolean;
      /** The blocked or broken-off attempt from which it goes on. */
      readonly continues: AttemptId | null;
    }
  | { readonly kind: 'finish'; readonly attempt: AttemptId }
  /** An attempt under way changes hands: a runner's to a person, a person's to a pool. */
  | { readonly kind: 'hand over'; readonly attempt: AttemptId; readonly to: Receiver; readonly word: string }
  /** A runner ends in the middle of an attempt: the turn is given out again, unless that happened before. */
  | { readonly kind: 'break off'; readonly attempt: AttemptId; readonly isAgain: boolean; readonly why: string }
  | { readonly kind: 'lift'; readonly turn: TurnId; readonly word: string }
  | { readonly kind: 'pass'; readonly turn: TurnId; readonly to: Receiver; readonly word: string }
  | {
      readonly kind: 'give';
      readonly turns: readonly { readonly turn: TurnId; readonly personId: PersonId | null; readonly dueOn: string | null }[];
    }
  | { readonly kind: 'leave'; readonly personId: PersonId; readonly handTo: PersonId | null }
  | {
      readonly kind: 'move defect';
      readonly defect: DefectId;
      readonly from: DefectStatus;
      readonly to: DefectStatus;
      readonly reason: string;
    }
  | { readonly kind: 'log defect'; readonly defect: DefectId; readonly code: string; readonly title: string; readonly turn: TurnId }
  | { readonly kind: 'join defect'; readonly defect: DefectId; readonly turn: TurnId; readonly step: number }
  | { readonly kind: 'leave out'; readonly runs: readonly { readonly id: RunId; readonly to: LeavingWay; readonly reason: string }[] }
  | {
      readonly kind: 'repin';
      readonly version: number;
      readonly turns: readonly { readonly turn: TurnId; readonly versionId: TestVersionId; readonly needs: readonly PinnedNeed[] }[];
    }
  /** Runs are new, or their cycle was opened. */
  | { readonly kind: 'start' };

export type RunEventOf<Kind extends RunEvent['kind']> = Extract<RunEvent, { readonly kind: Kind }>;

/** What is to be told besides what is written. */
export type Effect =
  | {
      readonly kind: 'history';
      readonly subject: 'turn' | 'attempt' | 'defect';
      readonly subjectId: string;
      readonly action: string;
      readonly details: Readonly<Record<string, unknown>>;
    }
  /** The baton has come to whoever has these turns. */
  | { readonly kind: 'tell ready'; readonly turns: readonly TurnId[] }
  /** What blocked it is out of the way. */
  | { readonly kind: 'tell lifted'; readonly turn: TurnId; readonly word: string }
  /** Somebody cannot go on. */
  | { readonly kind: 'tell blocked'; readonly turn: TurnId; readonly why: string }
  | { readonly kind: 'tell fixed'; readonly defect: DefectId; readonly turns: readonly TurnId[] }
  | {
      readonly kind: 'tell passed on';
      readonly turn: TurnId;
      readonly from: PersonId | null;
      readonly to: PersonId;
      readonly word: string;
    };

/** Why something may not happen, as a sentence. */
export interface Refusal {
  readonly code: 'invalid' | 'conflict' | 'forbidden' | 'not found';
  readonly message: string;
}

export type Decision =
  { readonly ok: true; readonly state: RunsState; readonly effects: readonly Effect[] } | { readonly ok: false; readonly refusal: Refusal };

export interface Moment {
  readonly by: Doer;
  readonly atMs: number;
}

/** One kind of event: what it changes, before all that follows from it is worked out. */
export type Decide<Kind extends RunEvent['kind']> = (state: RunsState, event: RunEventOf<Kind>, moment: Moment) => Decision;

export const refuse = (code: Refusal['code'], message: string): Decision => ({ ok: false, refusal: { code, message } });
export const accept = (state: RunsState, effects: readonly Effect[] = []): Decision => ({ ok: true, state, effects });
export const NO_TURN = refuse('not found', 'There is no such turn in this programme.');
