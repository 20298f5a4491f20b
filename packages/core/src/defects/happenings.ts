import type { DefectStatus } from './defect.ts';
import { isAtRetest, isHolding, isOver } from './defect.ts';

/** What happens to a defect in its life; some of it more than once. */
const HAPPENING_FACTS = {
  found: 'found',
  fixed: 'said to be fixed',
  reopened: 'opened again',
  over: 'closed or declined',
} as const;
export type Happening = keyof typeof HAPPENING_FACTS;
export const HAPPENINGS = Object.keys(HAPPENING_FACTS) as [Happening, ...Happening[]];
export const getHappeningLabel = (happening: Happening): string => HAPPENING_FACTS[happening];

/** When a defect was found and where it was moved since, the first first; moments in epoch milliseconds. */
export interface DefectLife {
  readonly foundMs: number;
  readonly moves: readonly { readonly atMs: number; readonly to: DefectStatus }[];
}

/** What happened to a defect, in its order. */
export function listHappenings({ foundMs, moves }: DefectLife): { readonly kind: Happening; readonly atMs: number }[] {
  let status: DefectStatus = 'new';
  const happened: { kind: Happening; atMs: number }[] = [{ kind: 'found', atMs: foundMs }];
  for (const { atMs, to } of moves) {
    if (isAtRetest(to) && !isAtRetest(status)) happened.push({ kind: 'fixed', atMs });
    if (isOver(to) && !isOver(status)) happened.push({ kind: 'over', atMs });
    if (isHolding(to) && !isHolding(status)) happened.push({ kind: 'reopened', atMs });
    status = to;
  }
  return happened;
}

/** Where a defect stands after all of its moves. */
export const getLastStatus = ({ moves }: DefectLife): DefectStatus => moves.at(-1)?.to ?? 'new';
