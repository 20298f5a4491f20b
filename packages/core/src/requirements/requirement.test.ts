import { describe, expect, it } from 'vitest';
import { getRequirementState } from './requirement.ts';

describe('a requirement', () => {
  it('is unknown without a result, never verified by default', () => {
    expect([getRequirementState([]), getRequirementState([null, 'waiting'])]).toEqual(['not yet', 'not yet']);
  });

  it('is verified by all its tests, refuted by one, partly in between', () => {
    expect([
      getRequirementState(['passed', 'passed']),
      getRequirementState(['passed', 'failed']),
      getRequirementState(['passed', null]),
    ]).toEqual(['verified', 'refuted', 'partly']);
  });
});
