/** A cycle as a project: turns are jobs, the people of a lane (or the runners of a pool) do them. Times as in working-time.ts. */
export interface PlanJob {
  readonly id: string;
  readonly run: string;
  /** The lane's team; a lane with nobody in it does nothing. */
  readonly lane: string;
  readonly minutes: number;
  /** Jobs that must be done before, by id; those that are not in the problem count as done. */
  readonly after: readonly string[];
  /** Days that pass between the end of those and the begin of this: it begins on that day at the earliest. */
  readonly waitDays: number;
  /** Not before this moment. */
  readonly notBefore: number;
  /** Who does it; null: whoever of the lane is free first. */
  readonly worker: string | null;
  /** Somebody is at it already. */
  readonly isBegun?: boolean;
  /** The job whose worker does this one too. */
  readonly sameAs: string | null;
  /** Jobs whose worker must not do this one. */
  readonly otherThan: readonly string[];
  /** The end of the day on which it is due: a plan that was kept is found again by these. */
  readonly dueAt?: number;
  /** Who must not do it, since she did what another is to check. */
  readonly notBy?: readonly string[];
  /** Who does it where nobody is named, since she did what the same person is to go on with. */
  readonly onlyBy?: string;
}

export interface PlanWorker {
  readonly id: string;
  readonly lanes: readonly string[];
  /** Minutes that can be worked on each day from the plan's first, and when a day's work begins (minutes after midnight). */
  readonly minutesByDay: readonly number[];
  readonly startsAt: number;
}

interface PlanLane {
  readonly id: string;
  /** What one more worker would have: minutes by day, begin of the day. */
  readonly minutesByDay: readonly number[];
  readonly startsAt: number;
}

interface PlanRun {
  readonly id: string;
  /** 0 is done without first. */
  readonly rank: number;
}

export interface PlanProblem {
  readonly jobs: readonly PlanJob[];
  readonly workers: readonly PlanWorker[];
  readonly lanes: readonly PlanLane[];
  readonly runs: readonly PlanRun[];
  /** Nothing begins before. */
  readonly startsAt: number;
  /** The end that is wished for. */
  readonly endsAt: number;
}
