export const REQUIREMENT_KINDS = ['business', 'functional', 'performance', 'acceptance'] as const;
export type RequirementKind = (typeof REQUIREMENT_KINDS)[number];

/** What the newest turns say of a requirement: all its tests passed, one failed, some passed, none has a result. */
export const REQUIREMENT_STATES = ['verified', 'refuted', 'partly', 'not yet'] as const;
export type RequirementState = (typeof REQUIREMENT_STATES)[number];

/** `outcomes`: for each test of the requirement its newest outcome, null where it has none. */
export function getRequirementState(outcomes: readonly (string | null)[]): RequirementState {
  if (outcomes.includes('failed')) return 'refuted';
  const passed = outcomes.filter((outcome) => outcome === 'passed').length;
  if (passed === 0) return 'not yet';
  return passed === outcomes.length ? 'verified' : 'partly';
}
