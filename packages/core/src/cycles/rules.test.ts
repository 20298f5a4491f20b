import { describe, expect, it } from 'vitest';
import { NO_COUNTS } from '../progress/tally.ts';
import { checkExit, describeExitRule } from '../progress/check-exit.ts';
import { checkCycleScheme, proposeCycleCode } from './cycle-code.ts';
import { DEFAULT_RULES, findMissing } from './rules.ts';

const step = (outcome: string | null, note = '', pictures = 0) => ({ outcome, note, pictures });

describe('what an attempt lacks', () => {
  it('is nothing without rules', () => expect(findMissing(DEFAULT_RULES, { steps: [step('failed')], defects: 0 })).toEqual([]));

  it('names the steps without a picture, each once', () => {
    const rules = { evidence: 'each step' as const, failure: ['picture' as const] };
    expect(findMissing(rules, { steps: [step('passed', '', 1), step('failed'), step('skipped'), step('passed')], defects: 0 })).toEqual([
      'This cycle asks for a picture or file at steps 2, 4.',
    ]);
  });

  it('asks for words and a defect only where something failed', () => {
    const rules = { evidence: 'failed steps' as const, failure: ['words' as const, 'defect' as const] };
    expect(findMissing(rules, { steps: [step('passed')], defects: 0 })).toEqual([]);
    expect(findMissing(rules, { steps: [step('failed', '', 1)], defects: 0 })).toHaveLength(2);
    expect(findMissing(rules, { steps: [step('failed', 'No charge', 1)], defects: 1 })).toEqual([]);
  });
});

describe('exit criteria', () => {
  it('of shares are met from their bound on, and only where something was run', () => {
    const met = (kind: 'run share' | 'pass share', least: number, counts: Partial<typeof NO_COUNTS>) =>
      checkExit([{ kind, least }], { counts: { ...NO_COUNTS, ...counts }, defects: [], requirements: [], criticalNodes: [] })[0];
    const figures = { passed: 19, failed: 1, waiting: 5 };
    expect([met('pass share', 0.95, figures)?.isMet, met('pass share', 0.96, figures)?.isMet]).toEqual([true, false]);
    expect([met('run share', 0.8, figures)?.isMet, met('run share', 0.81, figures)?.isMet]).toEqual([true, false]);
    expect(met('pass share', 0.96, figures)?.open).toEqual(['failed']);
    expect(met('pass share', 0.1, { waiting: 3 })).toMatchObject({ isMet: false, figure: null, open: [] });
  });

  const figures = {
    counts: { ...NO_COUNTS, passed: 95, failed: 5, waiting: 10 },
    defects: [
      { code: 'D-1', severity: 'stops the business' as const, status: 'fixed' as const },
      { code: 'D-2', severity: 'hinders' as const, status: 'new' as const },
      { code: 'D-3', severity: 'slows the business' as const, status: 'closed' as const },
    ],
    requirements: [
      { code: 'R-1', kind: 'acceptance', state: 'verified' },
      { code: 'R-2', kind: 'acceptance', state: 'not yet' },
    ],
    criticalNodes: [
      { code: 'NS', isSignedOff: true },
      { code: 'LR', isSignedOff: false },
    ],
  };

  it('have a figure and what stands in the way', () => {
    const rules = [...DEFAULT_RULES.exit, { kind: 'requirements verified' as const, requirements: 'acceptance' as const }];
    expect(checkExit(rules, figures).map(({ isMet, figure, open }) => [isMet, figure, open])).toEqual([
      [false, 100 / 110, ['waiting']],
      [true, 0.95, []],
      [false, 1, ['D-1']],
      [false, 1, ['LR']],
      [false, 0.5, ['R-2']],
    ]);
  });

  it('without anything run are not met, and have no figure', () =>
    expect(checkExit(DEFAULT_RULES.exit, { ...figures, counts: NO_COUNTS })[0]).toMatchObject({ isMet: false, figure: null }));

  it('say severities by the programme’s own words', () =>
    expect(describeExitRule({ kind: 'open defects', severity: 'hinders', most: 2 }, { hinders: 'class 3' })).toBe(
      'At most 2 open defects of “class 3” or worse',
    ));

  it('are sentences', () =>
    expect(DEFAULT_RULES.exit.map((rule) => describeExitRule(rule, {}))).toEqual([
      'At least 100 % is run',
      'At least 95 % of what was run has passed',
      'No open defect of “slows the business” or worse',
      'Every critical node is signed off',
    ]));
});

describe('a cycle’s code', () => {
  it('follows the programme’s scheme to the next number', () => {
    expect(proposeCycleCode('{purpose}-9', 'acceptance', '2026-03-02', (code) => code === 'ACC-2')).toBe('ACC-3');
    expect(proposeCycleCode('R{year}.99', 'smoke', '2026-03-02', () => false)).toBe('R2026.01');
  });
  it('needs a number and the characters of a code', () => {
    expect(checkCycleScheme('{purpose}-9')).toBeNull();
    expect(checkCycleScheme('round')).toMatch('needs a number');
    expect(checkCycleScheme('a b 9')).toMatch('letters');
    expect(checkCycleScheme('-9')).toMatch('begins');
  });
});
