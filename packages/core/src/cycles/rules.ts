import type { RequirementKind } from '../requirements/requirement.ts';
import type { Severity } from '../defects/defect.ts';

/** What is done with a leg that has no test, or no agreed version of it, when the cycle opens. */
export const OPEN_LEG_RULES = ['refused', 'left out', 'bare turn'] as const;
export type OpenLegRule = (typeof OPEN_LEG_RULES)[number];

/** At which steps pictures or files are asked for. */
export const EVIDENCE_RULES = ['each step', 'failed steps', 'none'] as const;
type EvidenceRule = (typeof EVIDENCE_RULES)[number];

/** What a failure must carry. The environment, the browser and the values used are always noted. */
export const FAILURE_PARTS = ['words', 'picture', 'defect'] as const;
type FailurePart = (typeof FAILURE_PARTS)[number];

export const RETEST_RULES = ['anybody of the lane', 'the same person', 'another person'] as const;
type RetestRule = (typeof RETEST_RULES)[number];

/** Adding a criterion: a line here and its measure in check-exit.ts. Shares go from 0 to 1. */
export type ExitRule =
  | { readonly kind: 'run share'; readonly least: number }
  | { readonly kind: 'pass share'; readonly least: number }
  | { readonly kind: 'open defects'; readonly severity: Severity; readonly most: number }
  | { readonly kind: 'requirements verified'; readonly requirements: RequirementKind }
  | { readonly kind: 'critical nodes signed off' };

export interface CycleRules {
  /** Scenarios that are still sketches keep the cycle from opening. Of tests only agreed versions are ever pinned. */
  readonly onlyAgreedScenarios: boolean;
  readonly openLegs: OpenLegRule;
  readonly evidence: EvidenceRule;
  /** Of which steps runners take pictures. */
  readonly runnerPictures: EvidenceRule;
  readonly failure: readonly FailurePart[];
  readonly retestBy: RetestRule;
  /** Testers may record turns that are with somebody else of their lane. */
  readonly laneMayRecord: boolean;
  readonly exit: readonly ExitRule[];
}

/** Common practice, no source: nearly all is run, nearly all of that passes, and nothing grave is open. */
export const DEFAULT_RULES: CycleRules = {
  onlyAgreedScenarios: false,
  openLegs: 'refused',
  evidence: 'none',
  runnerPictures: 'each step',
  failure: [],
  retestBy: 'anybody of the lane',
  laneMayRecord: false,
  exit: [
    { kind: 'run share', least: 1 },
    { kind: 'pass share', least: 0.95 },
    { kind: 'open defects', severity: 'slows the business', most: 0 },
    { kind: 'critical nodes signed off' },
  ],
};

interface StepEvidence {
  readonly outcome: string | null;
  readonly note: string;
  readonly pictures: number;
}

export interface AttemptEvidence {
  readonly steps: readonly StepEvidence[];
  readonly defects: number;
}

/** What an attempt still lacks by the rules of its cycle, as sentences; empty: it may be finished. Cost O(steps). */
export function findMissing(rules: Pick<CycleRules, 'evidence' | 'failure'>, { steps, defects }: AttemptEvidence): string[] {
  const failed = steps.flatMap((step, index) => (step.outcome === 'failed' ? [{ ...step, number: index + 1 }] : []));
  const missing: string[] = [];
  const without = steps.flatMap((step, index) => {
    const isAsked =
      rules.evidence === 'each step'
        ? step.outcome !== null && step.outcome !== 'skipped'
        : rules.evidence === 'failed steps' && step.outcome === 'failed';
    return isAsked && step.pictures === 0 ? [index + 1] : [];
  });
  const noPicture = new Set([
    ...without,
    ...(rules.failure.includes('picture') ? failed.filter(({ pictures }) => pictures === 0).map(({ number }) => number) : []),
  ]);
  if (noPicture.size > 0) missing.push(`This cycle asks for a picture or file at ${nameSteps([...noPicture])}.`);
  const silent = rules.failure.includes('words') ? failed.filter(({ note }) => note.trim() === '').map(({ number }) => number) : [];
  if (silent.length > 0) missing.push(`This cycle asks for words on what you saw at ${nameSteps(silent)}.`);
  if (rules.failure.includes('defect') && failed.length > 0 && defects === 0)
    missing.push('This cycle asks for a defect with every failure: log it, or join it to one that is known.');
  return missing;
}

const nameSteps = (numbers: readonly number[]) => `${numbers.length === 1 ? 'step' : 'steps'} ${numbers.join(', ')}`;
