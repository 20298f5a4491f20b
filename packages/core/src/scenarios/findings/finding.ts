import type { Chain } from '../chain.ts';

/** An error keeps a baton from arriving; a warning may surprise; a note is worth knowing. */
export const FINDING_WEIGHTS = ['error', 'warning', 'note'] as const;
export type FindingWeight = (typeof FINDING_WEIGHTS)[number];

export interface Finding {
  readonly rule: string;
  readonly weight: FindingWeight;
  readonly leg: string;
  /** The value it is about, where there is one. */
  readonly value?: string | undefined;
  /** What is wrong, which one, and what would help. */
  readonly message: string;
}

export interface FindingContext {
  readonly chain: Chain;
  /** In an open cycle an open leg is an error, before that a note. */
  readonly isInOpenCycle: boolean;
}

/** A rule looks at the whole chain. Adding one: a file here and a line in rules.ts. */
export interface FindingRule {
  readonly rule: string;
  readonly find: (context: FindingContext) => readonly Omit<Finding, 'rule'>[];
}

/** “leg 3, Price the quote” */
export function describeLeg(chain: Chain, id: string): string {
  const leg = chain.legs.find((candidate) => candidate.leg.id === id);
  return leg ? `leg ${leg.index + 1}, ${leg.leg.title}` : 'a leg that is gone';
}
