import type { Step } from '../step.ts';

/** One thing that could be simpler: the steps from `at` on that would go, and those that would stand in their place. */
interface Replacement {
  readonly at: number;
  readonly before: readonly Step[];
  readonly after: readonly Step[];
}

/** A proposal is shown with before and after, and can be refused; places are disjoint and in order. */
export interface TidyProposal {
  readonly rule: string;
  /** Tells it apart from others of its rule, wherever its steps stand, so that a refusal holds. */
  readonly key: string;
  readonly reason: string;
  readonly replacements: readonly Replacement[];
  /** Values that become inputs: they go into the test’s data rows. */
  readonly inputs?: Readonly<Record<string, string>>;
}

/** A rule looks at all steps. Adding one: a file here and a line in rules.ts. */
export interface TidyRule {
  readonly rule: string;
  readonly propose: (steps: readonly Step[]) => readonly Omit<TidyProposal, 'rule'>[];
}

/** The steps with a proposal taken in. Cost O(steps). */
export function applyProposal(steps: readonly Step[], { replacements }: TidyProposal): Step[] {
  const tidy = [...steps];
  for (const { at, before, after } of [...replacements].reverse()) tidy.splice(at, before.length, ...after);
  return tidy;
}

/** The same thing of the screen, done by the same persona, and as binding. */
export const isSameThing = (a: Step, b: Step) =>
  (a.optional === true) === (b.optional === true) &&
  a.target.toLowerCase() === b.target.toLowerCase() &&
  a.within === b.within &&
  a.beside === b.beside &&
  a.as === b.as;
