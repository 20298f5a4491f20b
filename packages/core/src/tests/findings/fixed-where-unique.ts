import type { TestFindingRule } from './finding.ts';
import { isSaving } from './finding.ts';

/** Fields whose value may be there only once (common practice, no source). */
const UNIQUE =
  /(?:\b(?:serial|reference|registration|licen[cs]e|passport|e-?mail(?: address)?|user ?name|login)(?: no\.?| number| code| id)?|\b(?:new|external|own|our|your) .*(?:no\.?|number|code|id))$/i;

export const fixedWhereUnique: TestFindingRule = {
  rule: 'fixed where unique',
  title: 'a fixed value where it must be unique',
  weight: 'warning',
  find: ({ steps }) =>
    steps.flatMap((step, index) =>
      step.do === 'fill' &&
      step.value !== undefined &&
      !step.value.includes('{') &&
      UNIQUE.test(step.target) &&
      steps.slice(index).some(isSaving)
        ? [
            {
              steps: [index],
              about: step.target,
              message: `“${step.target}” gets the same value each time; the second attempt will be told that it is taken.`,
              wayOut: 'Use a fresh value such as {new AA-9999}, or an input.',
            },
          ]
        : [],
    ),
};
