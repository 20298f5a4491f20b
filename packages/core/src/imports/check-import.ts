import { checkFields, checkRows } from './check-values.ts';
import { checkNodes } from './check-nodes.ts';
import { checkScenarios, checkTests } from './check-tests.ts';
import type { ImportDocument, ImportSurroundings } from './import-document.ts';
import type { ImportProblem } from '../tables/place.ts';
import type { Step } from '../tests/step.ts';
import { normalizeStep } from '../tests/step.ts';

export interface ImportCheck {
  readonly problems: readonly ImportProblem[];
  /** What would be added: the document without what is there already, unchanged. */
  readonly additions: ImportDocument;
  readonly alreadyThere: { readonly nodes: number; readonly tests: number; readonly scenarios: number };
  /** Codes of tests that stay as they are although the workbook has other steps for them. */
  readonly otherSteps: readonly string[];
}

/**
 * Compares a workbook with the programme: every duplicate, unknown code, circle of parents and unknown team is a problem
 * with its place. What stands there already under the same code and name is left as it is. Cost O(rows).
 */
export function checkImport(document: ImportDocument, around: ImportSurroundings): ImportCheck {
  const problems = [
    ...checkNodes(document, around),
    ...checkTests(document, around),
    ...checkFields(document, around),
    ...checkScenarios(document, around),
    ...checkRows(document),
  ];
  const isNew = (existing: readonly { code: string }[]) => {
    const codes = new Set(existing.map(({ code }) => code));
    return ({ code }: { code: string }) => !codes.has(code);
  };
  const additions: ImportDocument = {
    ...document,
    nodes: document.nodes.filter(isNew(around.nodes)),
    tests: document.tests.filter(isNew(around.tests)),
    scenarios: document.scenarios.filter(isNew(around.scenarios)),
  };
  return {
    problems,
    additions,
    alreadyThere: {
      nodes: document.nodes.length - additions.nodes.length,
      tests: document.tests.length - additions.tests.length,
      scenarios: document.scenarios.length - additions.scenarios.length,
    },
    otherSteps: listOtherSteps(document, around),
  };
}

function listOtherSteps({ tests }: ImportDocument, around: ImportSurroundings): string[] {
  const stepsOf = new Map(around.tests.map(({ code, steps }) => [code, steps]));
  return tests.flatMap(({ code, steps }) => {
    const known = stepsOf.get(code);
    return known && toStepsKey(known) !== toStepsKey(steps.map(({ step }) => step)) ? [code] : [];
  });
}

const toStepsKey = (steps: readonly Step[]) => JSON.stringify(steps.map(normalizeStep));
