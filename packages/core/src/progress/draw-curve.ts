import type { CourseFacts, CourseUnit } from './course.ts';
import { weighTurn } from './course.ts';

/** At the end of each day from the first to today: what was through, and what had gone wrong and was to be done again. */
export interface Curve {
  readonly through: readonly number[];
  readonly wrong: readonly number[];
}

/**
 * The way so far, for each group and for all. A turn stands by its newest attempt that had ended by the evening; today it stands as its status says, so that
 * the last point is what the lists count. Only turns of the branch count. Cost O(turns + attempts + groups × days).
 */
export function drawCurves(facts: CourseFacts, unit: CourseUnit): { readonly all: Curve; readonly groups: readonly Curve[] } {
  const days = facts.today + 1;
  const steps = Array.from({ length: facts.groups }, () => ({ through: new Float64Array(days), wrong: new Float64Array(days) }));
  const stands: ('through' | 'wrong' | undefined)[] = [];
  const move = (turn: number, day: number, to: 'through' | 'wrong' | undefined) => {
    const { group, isCounted, ...own } = facts.turns[turn]!;
    const from = stands[turn];
    if (!isCounted || from === to) return;
    const at = Math.min(Math.max(day, 0), facts.today);
    const weight = weighTurn(own, unit);
    if (from) steps[group]![from][at]! -= weight;
    if (to) steps[group]![to][at]! += weight;
    stands[turn] = to;
  };
  for (const { turn, day, isThrough } of facts.tries) move(turn, day, isThrough ? 'through' : 'wrong');
  facts.turns.forEach(({ isThrough, isWrong, leftOutOn }, turn) =>
    move(turn, (isThrough ? leftOutOn : null) ?? facts.today, isThrough ? 'through' : isWrong ? 'wrong' : undefined),
  );
  const groups = steps.map(({ through, wrong }) => ({ through: addUp(through), wrong: addUp(wrong) }));
  return { groups, all: { through: sumOver(groups, 'through', days), wrong: sumOver(groups, 'wrong', days) } };
}

function addUp(steps: Float64Array): number[] {
  let sum = 0;
  return Array.from(steps, (step) => (sum += step));
}

const sumOver = (curves: readonly Curve[], of: keyof Curve, days: number) =>
  Array.from({ length: days }, (_, day) => curves.reduce((sum, curve) => sum + curve[of][day]!, 0));
