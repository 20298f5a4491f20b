import { describe, expect, it } from 'vitest';
import { findLeftOpen } from './find-left-open.ts';

const left = (requirement: { state: string; tests: readonly string[] }, nodes: readonly { code: string; isSignedOff: boolean }[] = []) =>
  findLeftOpen({
    requirements: [{ state: requirement.state, tests: requirement.tests.map((code) => ({ code })) }],
    turnsOf: new Map([
      ['GONE', { spared: 2, kept: 0 }],
      ['SOME', { spared: 1, kept: 3 }],
      ['KEPT', { spared: 0, kept: 1 }],
    ]),
    ...{ nodes, touched: new Set(['NS', 'NS-1']) },
  });

describe('what leaving out leaves open', () => {
  it('is a requirement that is not verified and has a test without a turn then', () => {
    expect(left({ state: 'partly', tests: ['KEPT', 'GONE'] }).requirements).toHaveLength(1);
    expect(left({ state: 'refuted', tests: ['GONE'] }).requirements).toHaveLength(1);
    expect(left({ state: 'verified', tests: ['GONE'] }).requirements).toEqual([]);
    expect(left({ state: 'not yet', tests: ['SOME', 'KEPT'] }).requirements).toEqual([]);
    // In no cycle: leaving out changes nothing for it.
    expect(left({ state: 'not yet', tests: ['ELSEWHERE'] }).requirements).toEqual([]);
  });

  it('and a critical node that loses turns and is not signed off', () => {
    const nodes = [
      { code: 'NS', isSignedOff: false },
      { code: 'NS-1', isSignedOff: true },
      { code: 'LR', isSignedOff: false },
    ];
    expect(left({ state: 'verified', tests: [] }, nodes).nodes.map(({ code }) => code)).toEqual(['NS']);
  });
});
