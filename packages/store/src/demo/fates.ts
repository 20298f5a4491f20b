import type { Severity } from '@kindred-baton/core/defects/defect';

/** What happens to the runs of the open cycle: which fail where and by which defect, what is blocked, who has not begun. */
export interface DefectPlan {
  readonly key: string;
  readonly title: string;
  readonly kind: 'function' | 'data' | 'access' | 'display' | 'text';
  readonly severity: Severity;
  readonly priority: 'high' | 'medium' | 'low';
  readonly status: 'new' | 'accepted' | 'fixed' | 'closed';
  readonly expected: string;
  readonly seen: string;
}

/** In the order of their numbers, which stay whatever else of the demo changes. */
export const DEFECT_PLANS: readonly DefectPlan[] = [
  {
    key: 'discount',
    title: 'A discount of 100 % is taken',
    kind: 'function',
    severity: 'hinders',
    priority: 'low',
    status: 'closed',
    expected: 'The discount is refused over 50 %',
    seen: 'The quote was saved with a charge of 0.00',
  },
  {
    key: 'band',
    title: 'Quote is priced in the wrong band',
    kind: 'function',
    severity: 'stops the business',
    priority: 'high',
    status: 'accepted',
    expected: 'The charge of the chosen band',
    seen: 'The charge of band C, whatever was chosen',
  },
  {
    key: 'permit',
    title: 'Crew tablet does not show the permit',
    kind: 'display',
    severity: 'slows the business',
    priority: 'high',
    status: 'accepted',
    expected: 'The job on the crew’s tablet, with its permit',
    seen: 'The job is there; its field for the permit is empty',
  },
  {
    key: 'hours',
    title: 'Damage charge leaves half hours out',
    kind: 'function',
    severity: 'slows the business',
    priority: 'medium',
    status: 'new',
    expected: 'Hours and parts added up',
    seen: 'Half an hour was not charged',
  },
  {
    key: 'tariff',
    title: 'Farms are billed at the trade tariff',
    kind: 'data',
    severity: 'stops the business',
    priority: 'high',
    status: 'accepted',
    expected: 'Tariff: Farm',
    seen: 'Tariff: Trade',
  },
  {
    key: 'settle',
    title: 'Settlement lands on the wrong plant',
    kind: 'data',
    severity: 'slows the business',
    priority: 'high',
    status: 'new',
    expected: 'The cost is on the plant of the order',
    seen: 'The cost is on the plant above it',
  },
  {
    key: 'reminder',
    title: 'Reminder goes out on day 29',
    kind: 'function',
    severity: 'slows the business',
    priority: 'medium',
    status: 'closed',
    expected: 'A first reminder after 30 days',
    seen: 'The reminder was there after 29 days',
  },
  {
    key: 'register',
    title: 'Registering a meter says nothing',
    kind: 'function',
    severity: 'hinders',
    priority: 'medium',
    status: 'fixed',
    expected: '“Meter registered” with an account number',
    seen: 'No message; the account number came after a reload',
  },
  {
    key: 'note',
    title: 'Delivery note number is given twice',
    kind: 'data',
    severity: 'slows the business',
    priority: 'medium',
    status: 'accepted',
    expected: 'A note number of its own',
    seen: 'The number of the delivery before',
  },
  {
    key: 'balance',
    title: 'Posting is out by a cent',
    kind: 'data',
    severity: 'slows the business',
    priority: 'high',
    status: 'closed',
    expected: '“Posted”, and the accounts balance',
    seen: 'A difference of 0.01 is left over',
  },
];

/** One entry a test at which runs stop: how many runs, and by what. */
export interface StopPlan {
  readonly test: string;
  /** Only runs of these rows, and at the step on this thing; else of any row, and at the last step that says what should be seen. */
  readonly values?: Readonly<Record<string, readonly string[]>>;
  readonly on?: string;
  readonly scenarios: readonly string[];
  readonly runs: number;
  readonly by:
    | { readonly kind: 'defect'; readonly key: string }
    | { readonly kind: 'failure'; readonly seen: string }
    | { readonly kind: 'block'; readonly why: string }
    | { readonly kind: 'idle'; readonly person: string };
}

/** Whatever band was chosen, the charge is that of C: it shows where another was. */
const WRONG_BAND = {
  test: 'BIL-01',
  on: 'Connection charge',
  values: { 'Customer band': ['A', 'B'] },
  by: { kind: 'defect', key: 'band' },
} as const;

export const STOP_PLANS: readonly StopPlan[] = [
  { ...WRONG_BAND, scenarios: ['NS-S1', 'NS-S2'], runs: 6 },
  { ...WRONG_BAND, scenarios: ['NS-S5'], runs: 1 },
  { test: 'FLD-06', scenarios: ['LR-S1', 'LR-S2'], runs: 5, by: { kind: 'defect', key: 'permit' } },
  {
    ...{ test: 'BIL-09', scenarios: ['LR-S2', 'LR-S5'], runs: 3, by: { kind: 'defect', key: 'hours' } },
    values: { 'Crew hours': ['1.5', '2.5', '3.5'] },
  },
  {
    ...{ test: 'BIL-12', on: 'Tariff', scenarios: ['RB-S1', 'RB-S2'], runs: 4, by: { kind: 'defect', key: 'tariff' } },
    values: { Tariff: ['Farm'] },
  },
  { test: 'STO-06', scenarios: ['MI-S1'], runs: 3, by: { kind: 'defect', key: 'note' }, values: { Quantity: ['40', '50'] } },
  {
    ...{ test: 'FIN-13', scenarios: ['PU-S1'], runs: 2, by: { kind: 'defect', key: 'settle' } },
    values: { Plant: ['Pump P-1 North weir', 'Pump P-2 North weir'] },
  },
  { test: 'MET-01', scenarios: ['NS-S3'], runs: 2, by: { kind: 'defect', key: 'register' } },
  { test: 'CUS-12', scenarios: ['RB-S3'], runs: 2, by: { kind: 'failure', seen: 'The parts add up to 0.02 less than the bill' } },
  { test: 'STO-05', scenarios: ['MI-S2'], runs: 1, by: { kind: 'failure', seen: 'The order was sent to the dearest supplier' } },
  { test: 'MET-04', scenarios: ['RB-S4', 'RB-S5'], runs: 2, by: { kind: 'block', why: 'The reading file has not come from the round' } },
  { test: 'CUS-09', scenarios: ['LR-S3'], runs: 3, by: { kind: 'idle', person: 'Ines Varga' } },
  { test: 'CUS-02', scenarios: ['NS-S2'], runs: 1, by: { kind: 'idle', person: 'Ines Varga' } },
];

/** Turns that failed at first and passed again after the fix, by the defect that was closed. */
export const MENDED_PLANS: readonly { readonly test: string; readonly key: string; readonly runs: number }[] = [
  { test: 'BIL-02', key: 'discount', runs: 2 },
  { test: 'FIN-07', key: 'reminder', runs: 2 },
  { test: 'FIN-05', key: 'balance', runs: 3 },
];
