/** How much a big programme has; its map is always whole (5,064 nodes). */
export interface BigSize {
  readonly tests: number;
  readonly scenarios: number;
  readonly testers: number;
  readonly requirements: number;
  /** Runs of each closed cycle (there are four), of the open one, and of the one that is being planned. */
  readonly runs: { readonly closed: number; readonly open: number; readonly planned: number };
  /** Defects of each closed cycle. */
  readonly closedDefects: number;
}

/** The programme that the figures are stated for. */
export const BIG: BigSize = {
  ...{ tests: 20_070, scenarios: 2_021, testers: 180, requirements: 3_065 },
  runs: { closed: 900, open: 2_600, planned: 500 },
  closedDefects: 375,
};
