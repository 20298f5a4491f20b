import type { Likeness } from '../values/compare-lists.ts';
import { compareLists } from '../values/compare-lists.ts';
import type { Step } from './step.ts';

/** How a step of one version became one of another. */
export type StepDifference =
  | { readonly kind: 'same'; readonly before: PlacedStep; readonly after: PlacedStep }
  | { readonly kind: 'changed'; readonly before: PlacedStep; readonly after: PlacedStep; readonly fields: readonly (keyof Step)[] }
  | { readonly kind: 'moved'; readonly before: PlacedStep; readonly after: PlacedStep }
  | { readonly kind: 'added'; readonly after: PlacedStep }
  | { readonly kind: 'removed'; readonly before: PlacedStep };

interface PlacedStep {
  /** 0-based. */
  readonly index: number;
  readonly step: Step;
}

const FIELDS = [
  'do',
  'target',
  'within',
  'beside',
  'value',
  'check',
  'seconds',
  'expect',
  'keepAs',
  'optional',
  'as',
] as const satisfies readonly (keyof Step)[];

/**
 * Compares two versions step by step (values/compare-lists.ts): a step that does the same to the same thing in the same gap has
 * changed. Cost O(n × m).
 */
export function compareVersions(before: readonly Step[], after: readonly Step[]): StepDifference[] {
  return compareLists(before, after, STEP_LIKENESS).map((row): StepDifference => {
    if (row.kind === 'added') return { kind: 'added', after: toPlaced(row.after) };
    if (row.kind === 'removed') return { kind: 'removed', before: toPlaced(row.before) };
    const both = { before: toPlaced(row.before), after: toPlaced(row.after) };
    if (row.kind !== 'changed') return { kind: row.kind, ...both };
    return { kind: 'changed', ...both, fields: FIELDS.filter((field) => (row.before.item[field] ?? '') !== (row.after.item[field] ?? '')) };
  });
}

const toPlaced = ({ index, item }: { readonly index: number; readonly item: Step }): PlacedStep => ({ index, step: item });

/** First the same thing, then the same value or the same thing otherwise, then the same action. */
const STEP_LIKENESS: Likeness<Step> = {
  toKey: (step) => JSON.stringify(FIELDS.map((field) => step[field] ?? null)),
  likes: [
    (a, b) => a.do === b.do && a.target === b.target,
    (a, b) => a.target === b.target || (a.do === b.do && (a.value ?? '') === (b.value ?? '') && a.value !== undefined),
    (a, b) => a.do === b.do,
  ],
};
