import { byHand } from './by-hand.ts';
import { checksNothing } from './checks-nothing.ts';
import type { ExaminedTest, TestFinding, TestFindingRule } from './finding.ts';
import { TEST_FINDING_WEIGHTS } from './finding.ts';
import { fixedWhereUnique } from './fixed-where-unique.ts';
import { neverReached } from './never-reached.ts';
import { neverUsed } from './never-used.ts';
import { notReadBack } from './not-read-back.ts';
import { nothingSeenAfterSave } from './nothing-seen-after-save.ts';
import { repeatsSoon } from './repeats-soon.ts';
import { sharedOpening } from './shared-opening.ts';
import { tooManySteps } from './too-many-steps.ts';
import { trueBefore } from './true-before.ts';

export const TEST_FINDING_RULES: readonly TestFindingRule[] = [
  checksNothing,
  nothingSeenAfterSave,
  trueBefore,
  fixedWhereUnique,
  notReadBack,
  neverUsed,
  neverReached,
  repeatsSoon,
  tooManySteps,
  sharedOpening,
  byHand,
];

/** What is worth a look in a test, warnings first, then in the order of its steps. Cost O(rules × steps), for a few rules O(steps²). */
export function examineTest(test: ExaminedTest): TestFinding[] {
  const rank = ({ weight, steps }: TestFinding) => TEST_FINDING_WEIGHTS.indexOf(weight) * 10_000 + (steps[0] ?? -1);
  return TEST_FINDING_RULES.flatMap(({ rule, weight, find }) => find(test).map((finding) => ({ rule, weight, ...finding }))).sort(
    (a, b) => rank(a) - rank(b),
  );
}

/** Names a finding over time: what is waived stays waived. */
export function toWaiverKey({ rule, about }: Pick<TestFinding, 'rule' | 'about'>): string {
  return `${rule}\u0001${about}`;
}
