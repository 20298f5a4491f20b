import { createLeg } from '@kindred-baton/core/scenarios/scenario-document';
import { describe, expect, it } from 'vitest';
import { DOCUMENT, toExported } from '../scenarios/exported-scenario.test-data.ts';
import { writeScenarioBpmn } from './write-scenario-bpmn.ts';

describe('a leg in a diagram', () => {
  it('says how long it waits only where it does', () => {
    const write = (waitDays: number) =>
      writeScenarioBpmn(toExported({ ...DOCUMENT, legs: [createLeg({ id: 'a', title: 'Fit it', waitDays })] }));
    expect(write(0)).not.toContain('waitDays');
    expect(write(3)).toMatch(/waitDays="3"/);
  });
});
