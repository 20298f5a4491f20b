import { describe, expect, it } from 'vitest';
import { NO_COUNTS } from '@kindred-baton/core/progress/tally';
import type { CycleRecord, ReportedCycle, ReportedNode } from './cycle-report.ts';
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
const turn = {
  ...{ run: 1, leg: 1, scenario: 'NS-S1', row: 'band B', title: 'Price the quote', test: 'BIL-01', version: 3, node: 'NS-1' },
  ...{ team: 'Billing', assignee: 'Sena Adeyo', minutes: 10, dueOn: '2026-11-20', status: 'passed' },
  ...{ readyAt: '2026-11-20 09:00', doneAt: '2026-11-20 10:20', leftTo: null },
};
const record: CycleRecord = {
  turns: [
    turn,
    {
      ...{ ...turn, leg: 2, row: null, title: 'Approve', test: null, version: null, team: null, assignee: null, minutes: 5, dueOn: null },
      ...{ status: 'ready', readyAt: '2026-11-20 10:30', doneAt: '' },
    },
  ],
  attempts: [
    {
      ...{ run: 1, leg: 1, title: 'Price the quote', number: 2, person: 'Sena Adeyo', version: 3, environment: 'Rehearsal' },
      ...{ startedAt: '2026-11-20 10:00', finishedAt: '2026-11-20 10:20', outcome: 'passed', isFromSheet: true },
      kept: { 'Quote no.': 'QT-1', Price: '=1+1' },
    },
  ],
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
    expect(toCycleTables(cycle, record).map(({ sheet, rows }) => [sheet, rows.length])).toEqual([
      ['Cycle', 1],
      ['Processes', 1],
      ['Reservations', 0],
      ['Teams', 1],
      ['Runs', 2],
      ['Defects', 1],
      ['Scope changes', 1],
      ['Turns', 2],
      ['Attempts', 1],
      ['Values', 2],
    ]));

  it('has each turn, each finished attempt, and each value that was kept', () => {
    const sheets = new Map(toCycleTables(cycle, record).map(({ sheet, headings, rows }) => [sheet, { headings, rows }]));
    for (const { headings, rows } of sheets.values()) for (const row of rows) expect(row).toHaveLength(headings.length);
    expect(sheets.get('Turns')?.rows[1]).toEqual([
      ...[1, 2, 'NS-S1', '', 'Approve', '', '', 'NS-1', '', '', 5, '', 'ready', '2026-11-20 10:30', '', ''],
    ]);
    expect(sheets.get('Attempts')?.rows[0]).toEqual([
      ...[1, 1, 'Price the quote', 2, 'Sena Adeyo', 3, 'Rehearsal', '2026-11-20 10:00', '2026-11-20 10:20', 'passed', 'yes'],
    ]);
    expect(sheets.get('Values')?.rows.map((row) => row.slice(4, 6))).toEqual([
      ['Quote no.', 'QT-1'],
      ['Price', '=1+1'],
    ]);
  });

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
    const sheetOf = (name: string) => toCycleTables({ ...cycle, nodes: tree }, record).find(({ sheet }) => sheet === name)?.rows ?? [];
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
