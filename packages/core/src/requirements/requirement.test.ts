import { describe, expect, it } from 'vitest';
import { getRequirementState } from './requirement.ts';

describe('a requirement', () => {
  it('is unknown without a result, never verified by default', () => {
    expect([getRequirementState([]), getRequirementState([null, 'not run']), getRequirementState(['blocked'])]).toEqual([
      'not yet',
      'not yet',
      'not yet',
    ]);
  });

  it('is verified by all its tests, refuted by one that fails, partly in between', () => {
    expect([
      getRequirementState(['passed', 'passed']),
      getRequirementState(['passed', 'failing']),
      getRequirementState(['passed', null]),
      getRequirementState(['partly']),
      getRequirementState(['passed', 'blocked']),
    ]).toEqual(['verified', 'refuted', 'partly', 'partly', 'partly']);
  });
});
