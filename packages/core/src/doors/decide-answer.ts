import { compareList, compareShown, isListCheck } from '../screens/compare-shown.ts';
import type { Checked } from '../screens/decide-check.ts';
import type { StepCheck } from '../tests/step-checks.ts';
import type { Answer, QueryJson } from './answer.ts';
import { findInAnswer } from './answer.ts';

/** What is looked for in an answer. */
export interface AnswerTarget {
  readonly name: string;
  readonly beside?: string | undefined;
}

/**
 * Decides one check on an answer, by the rules for screens (screens/decide-check.ts): without one that it is there, or shows the value. Of *rows* the number
 * is compared.
 */
export function decideAnswer(
  answer: Answer,
  { target, check, value }: { target: AnswerTarget; check: StepCheck | undefined; value: string },
  query: QueryJson,
): Omit<Checked, 'element'> {
  const finding = findInAnswer(answer, target, query);
  if (finding.kind === 'none') return { holds: check === 'not there', actual: finding.message, isUnclear: false };
  const { items, count, headings } = finding;
  if (isListCheck(check)) return { ...compareList({ items, headings }, check, value), isUnclear: false };
  if (check === 'not there')
    return {
      holds: items.length === 0,
      actual: items.length === 0 ? '' : `It is there: ${items.slice(0, 5).join(', ')}.`,
      isUnclear: false,
    };
  if (check === undefined && value === '')
    return { holds: items.length > 0, actual: items.slice(0, 20).join(', ') || 'Nothing is there.', isUnclear: false };
  const [single] = count === null ? items : [String(count)];
  if (single === undefined) return { holds: false, actual: 'Nothing is there.', isUnclear: false };
  if (count === null && items.length > 1)
    return {
      ...{ holds: false, isUnclear: true },
      actual: `“${target.name}” is there ${items.length} times: say beside what it stands, or a path to one of them.`,
    };
  return { holds: compareShown(single, check, value), actual: single, isUnclear: false };
}
