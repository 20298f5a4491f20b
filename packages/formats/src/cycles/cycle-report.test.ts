import { describe, expect, it } from 'vitest';
import { NO_COUNTS } from '@kindred-baton/core/progress/tally';
import type { ReportedCycle, ReportedNode } from './cycle-report.ts';
import { toCycleTables, writeAcceptanceSheet, writeCycleReport } from './cycle-report.ts';

const counts = { ...NO_COUNTS, passed: 9, failed: 1, waiting: 2 };
const node: ReportedNode = {
  ...{ code: 'NS', name: 'New supply', depth: 0, owner: 'Greta Holm', counts },
  criteria: [{ rule: { kind: 'pass share', least: 0.95 }, isMet: false, figure: 0.9, open: ['failed'] }],
  openDefects: [{ code: 'TQ-1', title: 'Wrong <band>', severity: 'slows the business' }],
  requirements: [
    {
      code: 'RQ-1',
      title: 'A quote can be priced',
      state: 'verified',
      proof: { cycles: [{ cycle: 'ACC-2', turns: 3, passed: 3 }], untried: 0 },
    },
  ],
  signOff: null,
};
const cycle: ReportedCycle = {
  ...{ code: 'ACC-2', name: 'Acceptance round 2', state: 'open', purpose: 'acceptance', environment: 'Rehearsal', owner: 'Lea Marsh' },
  ...{ startsOn: '2026-11-19', endsOn: '2026-12-09', counts, criteria: [], nodes: [node], severityNames: {} },
  runs: [
    { number: 1, scenario: 'NS-S1', row: 'band B', outcome: 'failed', left: 'next cycle' },
    { number: 2, scenario: 'NS-S1', row: 'band C', outcome: 'passed', left: '' },
  ],
  lanes: [{ team: 'Billing', turns: 12, minutes: 120, minutesLeft: 45, counts }],
  defects: [{ code: 'TQ-1', title: 'Wrong <band>', severity: 'slows the business', status: 'new', team: 'Billing', waiting: 3 }],
  changes: [{ at: '25 November 2026', by: 'Lea Marsh', action: 'scope changed', why: 'Bills come later' }],
};
const head = { title: 'x', programme: 'North', day: '26 November 2026', paper: 'Letter' as const };

describe('the acceptance sheet', () => {
  it('has figures, criteria and places to decide and sign; no share is said where there is none', () => {
    const html = writeAcceptanceSheet(cycle, node, head);
    for (const text of [
      'Acceptance: New supply',
      '83.3 %',
      '90.0 %',
      'At least 95 % of what was run has passed',
      'Wrong &lt;band&gt;',
      'refused, because:',
      'Process owner: Greta Holm',
      'size: Letter',
    ])
      expect(html).toContain(text);
    expect(writeAcceptanceSheet(cycle, { ...node, counts: NO_COUNTS }, head)).toContain('<td>–</td>');
  });

  it('shows the decision that was made, and that its figures have moved', () => {
    const signOff = {
      decision: 'accepted with reservations',
      reason: 'Good enough',
      by: 'Greta Holm',
      at: '26 November 2026',
      reservations: [{ text: 'Charges', dueOn: '2027-01-15' }],
      counts,
      hasMoved: true,
    };
    const html = writeAcceptanceSheet(cycle, { ...node, signOff }, head);
    for (const text of ['Good enough', 'Charges (until 2027-01-15)', 'have moved since this decision']) expect(html).toContain(text);
    expect(html).not.toContain('refused, because:');
  });
});

describe('the report of a cycle', () => {
  it('lists only runs that are not through, and what was changed of its scope', () => {
    const html = writeCycleReport(cycle, head);
    expect(html).toContain('Runs that are not through: 1 of 2');
    expect(html).toContain('Bills come later');
    expect(html).not.toContain('band C');
  });

  it('is a workbook with a sheet each', () =>
    expect(toCycleTables(cycle).map(({ sheet, rows }) => [sheet, rows.length])).toEqual([
      ['Cycle', 1],
      ['Processes', 1],
      ['Reservations', 0],
      ['Teams', 1],
      ['Runs', 2],
      ['Defects', 1],
      ['Scope changes', 1],
    ]));

  it('has reservations as rows, and nothing below an accepted node is open', () => {
    const signOff = {
      ...{
        decision: 'accepted with reservations',
        reason: 'Good enough',
        by: 'Greta Holm',
        at: '26 November 2026',
        counts,
        hasMoved: false,
      },
      reservations: [{ text: 'Charges', dueOn: '2027-01-15' }],
    };
    const tree = [
      { ...node, signOff },
      { ...node, code: 'NS-1', depth: 1 },
      { ...node, code: 'NS-1.1', depth: 2, signOff: { ...signOff, decision: 'refused', reservations: [] } },
      { ...node, code: 'LR' },
      { ...node, code: 'LR-1', depth: 1 },
    ];
    const sheetOf = (name: string) => toCycleTables({ ...cycle, nodes: tree }).find(({ sheet }) => sheet === name)?.rows ?? [];
    expect(sheetOf('Reservations')).toEqual([['NS', 'New supply', 'Charges', '2027-01-15', 'Greta Holm', '26 November 2026']]);
    expect(sheetOf('Processes').map((row) => [row[0], row[2], row.at(-2)])).toEqual([
      ['NS', 1, 'accepted with reservations'],
      ['NS-1', 2, 'accepted with reservations with NS'],
      ['NS-1.1', 3, 'refused'],
      ['LR', 1, 'open'],
      ['LR-1', 2, 'open'],
    ]);
  });
});
