/** What a runner is told: to work; to wait before its next step; to finish what it does and take nothing more; to leave what it does at once. */
export const RUNNER_ORDERS = ['work', 'pause', 'drain', 'stop'] as const;
export type RunnerOrder = (typeof RUNNER_ORDERS)[number];

/** A turn is a runner's for so long after it was last heard of. */
export const LEASE_MS = 30_000;
/** So long an answer may be on its way: an attempt that a runner was given and does not name by then never came to it. */
export const HANDED_OUT_MS = 10_000;
/** How often a runner is heard of. */
export const HEARTBEAT_MS = 5_000;
