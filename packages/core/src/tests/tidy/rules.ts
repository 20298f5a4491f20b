import type { Step } from '../step.ts';
import { dropOverwrittenFills } from './drop-overwritten-fills.ts';
import { dropPointerMoves } from './drop-pointer-moves.ts';
import { joinKeystrokes } from './join-keystrokes.ts';
import { joinRepeatedPresses } from './join-repeated-presses.ts';
import { nameRepeatedValues } from './name-repeated-values.ts';
import type { TidyProposal, TidyRule } from './proposal.ts';
import { applyProposal } from './proposal.ts';

const TIDY_RULES: readonly TidyRule[] = [dropPointerMoves, joinKeystrokes, dropOverwrittenFills, joinRepeatedPresses, nameRepeatedValues];

/** What could be simpler in recorded or imported steps, in the rules' order. Cost O(rules × steps), in a bad case O(steps²). */
export function proposeTidying(steps: readonly Step[], refused: ReadonlySet<string> = new Set()): TidyProposal[] {
  return TIDY_RULES.flatMap(({ rule, propose }) => propose(steps).map((proposal) => ({ rule, ...proposal }))).filter(
    (proposal) => !refused.has(toProposalKey(proposal)),
  );
}

export const toProposalKey = ({ rule, key }: TidyProposal) => `${rule} ${key}`;

export interface Tidied {
  readonly steps: readonly Step[];
  readonly inputs: Readonly<Record<string, string>>;
  readonly taken: number;
}

/** Takes in every proposal that is not refused, and those that follow from them. Ends: each makes the steps fewer or a value named. */
export function tidyAll(steps: readonly Step[], refused: ReadonlySet<string> = new Set()): Tidied {
  let tidied: Tidied = { steps, inputs: {}, taken: 0 };
  for (let [next] = proposeTidying(steps, refused); next; [next] = proposeTidying(tidied.steps, refused)) {
    tidied = { steps: applyProposal(tidied.steps, next), inputs: { ...tidied.inputs, ...next.inputs }, taken: tidied.taken + 1 };
  }
  return tidied;
}
