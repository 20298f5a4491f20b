import type { Standing, TestStanding } from '../standing.ts';

export const REQUIREMENT_KINDS = ['business', 'functional', 'performance', 'acceptance'] as const;
export type RequirementKind = (typeof REQUIREMENT_KINDS)[number];

/** What its tests say of a requirement: all have passed, one is failing, some passed, none has a result. */
export const REQUIREMENT_STATES = ['verified', 'refuted', 'partly', 'not yet'] as const;
export type RequirementState = (typeof REQUIREMENT_STATES)[number];

/** `standings`: for each test of the requirement how it stands over all its current turns, null where it has none. */
export function getRequirementState(standings: readonly (Standing | null)[]): RequirementState {
  if (standings.includes('failing')) return 'refuted';
  if (standings.length > 0 && standings.every((standing) => standing === 'passed')) return 'verified';
  return standings.some((standing) => standing === 'passed' || standing === 'partly') ? 'partly' : 'not yet';
}

/** Over what its tests were counted. */
export interface Proof {
  /** In the order in which its tests name them. */
  readonly cycles: { readonly cycle: string; readonly turns: number; readonly passed: number }[];
  /** Tests that no cycle has any turns of. */
  readonly untried: number;
}

export function gatherProof(standings: readonly (TestStanding | null)[]): Proof {
  const ofCycle = new Map<string, { turns: number; passed: number }>();
  for (const { cycle, turns, passed } of standings.filter((standing) => standing !== null)) {
    const sum = ofCycle.get(cycle) ?? { turns: 0, passed: 0 };
    ofCycle.set(cycle, { turns: sum.turns + turns, passed: sum.passed + passed });
  }
  return {
    cycles: [...ofCycle].map(([cycle, sums]) => ({ cycle, ...sums })),
    untried: standings.filter((standing) => standing === null).length,
  };
}

/** “11 of 12 turns of ACC-2 passed, 3 of 3 of ACC-1 · 2 tests in no cycle yet” */
export function describeProof({ cycles, untried }: Proof): string {
  const counted = cycles.map(({ cycle, turns, passed }, index) =>
    index === 0 ? `${passed} of ${turns} ${turns === 1 ? 'turn' : 'turns'} of ${cycle} passed` : `${passed} of ${turns} of ${cycle}`,
  );
  const parts = [counted.join(', '), untried > 0 ? `${untried} ${untried === 1 ? 'test' : 'tests'} in no cycle yet` : ''];
  return parts.filter((part) => part !== '').join(' · ') || 'no test shows it';
}

/** The code after the last that is taken: RQ-061 after RQ-060. */
export function proposeNextCode(taken: readonly string[]): string {
  const last = [...taken].sort().at(-1) ?? 'RQ-000';
  const digits = /\d+$/.exec(last)?.[0] ?? '';
  return digits === '' ? `${last}-1` : last.slice(0, -digits.length) + String(Number(digits) + 1).padStart(digits.length, '0');
}
