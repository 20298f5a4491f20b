/** What was done in a cycle, as its report tells it; moments and days as text, in the programme's zone. */
export interface ReportedTurn {
  /** Numbers of the run and of the leg in it, from 1. */
  readonly run: number;
  readonly leg: number;
  readonly scenario: string;
  readonly row: string | null;
  readonly title: string;
  /** Code and pinned version of its test; null: it was done without one. */
  readonly test: string | null;
  readonly version: number | null;
  /** Code. */
  readonly node: string;
  readonly team: string | null;
  readonly assignee: string | null;
  readonly minutes: number;
  readonly dueOn: string | null;
  readonly status: string;
  readonly readyAt: string;
  readonly doneAt: string;
  /** Where its run was left to; null: it is in the cycle. */
  readonly leftTo: string | null;
}

export interface ReportedAttempt {
  readonly run: number;
  readonly leg: number;
  readonly title: string;
  readonly number: number;
  readonly person: string;
  readonly version: number | null;
  readonly environment: string;
  readonly startedAt: string;
  readonly finishedAt: string;
  readonly outcome: string | null;
  readonly isFromSheet: boolean;
  /** What was kept, by name. */
  readonly kept: Readonly<Record<string, string>>;
}
