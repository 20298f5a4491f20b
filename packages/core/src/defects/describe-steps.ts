import type { StepOutcome } from '../outcomes.ts';
import { printStep } from '../tests/print-step.ts';
import type { Step } from '../tests/step.ts';
import type { TemplateSource } from '../values/template.ts';
import { fillTemplate } from '../values/template.ts';

export interface StepsSoFar {
  readonly steps: readonly Step[];
  /** 0-based: the last step that is told. */
  readonly upTo: number;
  readonly source: TemplateSource;
  readonly outcomeAt: (index: number) => StepOutcome | null;
}

/** The numbered steps up to a failing one, with the values that were used: “3. Fill "Survey number" with "SV-40172". (passed)”. */
export function describeSteps({ steps, upTo, source, outcomeAt }: StepsSoFar): string[] {
  return steps.slice(0, upTo + 1).map((step, index) => {
    const outcome = outcomeAt(index);
    return `${index + 1}. ${printStep(fillStep(step, source))}${outcome ? ` (${outcome})` : ''}`;
  });
}

/** A step with its templates filled in. */
export function fillStep(step: Step, source: TemplateSource): Step {
  const fill = (template: string | undefined) => (template === undefined ? undefined : fillTemplate(template, source));
  return { ...step, target: fillTemplate(step.target, source), value: fill(step.value), expect: fill(step.expect) };
}
