import type { Pool } from 'pg';
import { DISTRICTS } from './districts.ts';
import { addDays, today } from './days.ts';
import type { KindName, Values } from './kinds.ts';
import { openRecords } from './records.ts';

/** What one business case has carried so far in the system before this one: values by the names that its papers give them. */
export type OldCase = Readonly<Record<string, string>>;

interface Taken<Name extends KindName = KindName> {
  readonly kind: Name;
  /** The name of the value that is its number. */
  readonly name: string;
  readonly toValues: (has: (name: string) => string) => Values<Name>;
}
const taken = <Name extends KindName>(kind: Name, name: string, toValues: Taken<Name>['toValues']) =>
  ({ kind, name, toValues }) as unknown as Taken;

/** Each kind of record that comes over, by the value that names it. */
const TAKEN: readonly Taken[] = [
  taken('application', 'Application no.', (has) => ({
    ...{ customer: has('Customer'), band: has('Customer band'), address: '3 Mill Lane', state: 'open', wanted_by: addDays(today(), 30) },
  })),
  taken('survey', 'Survey no.', (has) => ({
    application: has('Application no.'),
    length: has('Pipe length') || has('Length measured') || '10',
  })),
  taken('quote', 'Quote no.', (has) => ({
    ...{ survey: has('Survey no.'), application: has('Application no.'), band: has('Customer band'), length: has('Pipe length') },
    ...{
      discount: has('Discount') || '0',
      deposit: has('Deposit due'),
      charge: has('Charge expected') || String(Number(has('Deposit due')) * 2),
    },
    ...{ valid_until: addDays(today(), 80), state: has('Receipt no.') ? 'paid' : 'open' },
  })),
  taken('receipt', 'Receipt no.', (has) => ({ quote: has('Quote no.'), amount: has('Deposit due'), state: 'taken' })),
  taken('report', 'Report no.', (has) => ({ place: has('Place'), how_bad: has('How bad'), job: has('Job no.') })),
  taken('job', 'Job no.', (has) => ({
    ...{
      kind: has('Receipt no.') ? 'fitting' : 'repair',
      receipt: has('Receipt no.'),
      report: has('Report no.'),
      customer: has('Customer'),
    },
    ...{
      place: has('Place') || '3 Mill Lane',
      urgency: has('How bad'),
      planned_for: addDays(today(), 2),
      state: 'planned',
      cause: has('Cause'),
    },
    ...{ hours: has('Crew hours'), meter: has('Meter serial') },
  })),
  taken('meter', 'Meter serial', (has) => ({
    ...{ job: has('Job no.'), state: has('Account no.') ? 'registered' : has('Meter state') || 'issued', reading: has('First reading') },
    account: has('Account no.'),
  })),
  taken('account', 'Account no.', (has) => ({
    ...{
      customer: has('Customer'),
      meter: has('Meter serial'),
      tariff: 'Household',
      state: 'new',
      reading: has('First reading'),
      quote: has('Quote no.'),
    },
  })),
  taken('permit', 'Permit no.', (has) => ({ job: has('Job no.'), work_order: has('Work order no.'), from_day: today(), state: 'granted' })),
  taken('partsList', 'Parts list no.', (has) => ({
    ...{ job: has('Job no.'), work_order: has('Work order no.'), parts: 'A clamp and two couplings', value: has('Parts value') || '56.30' },
    state: has('Parts value') ? 'used' : 'reserved',
  })),
  taken('charge', 'Charge no.', (has) => ({
    ...{ job: has('Job no.'), hours: has('Crew hours'), parts: has('Parts value'), amount: has('Damage charge'), state: 'open' },
  })),
  taken('round', 'Reading batch', (has) => ({
    district: has('District'),
    state: has('Consumption') ? 'read' : 'planned',
    consumption: has('Consumption'),
  })),
  taken('requisition', 'Requisition no.', (has) => ({
    ...{ material: has('Material'), quantity: has('Quantity'), state: has('Order no.') || has('Approved') ? 'approved' : 'open' },
  })),
  taken('order', 'Order no.', (has) => ({
    ...{
      requisition: has('Requisition no.'),
      supplier: 'Fenland Supply',
      material: has('Material'),
      quantity: has('Quantity'),
      price: has('Price'),
    },
    ...{ open_quantity: has('Delivery note') ? '0' : has('Quantity'), state: 'sent' },
  })),
  taken('delivery', 'Delivery note', (has) => ({ order_number: has('Order no.'), quantity: has('Delivered') || has('Quantity') })),
  taken('invoice', 'Invoice no.', (has) => ({
    order_number: has('Order no.'),
    supplier: 'Fenland Supply',
    amount: has('Invoice amount'),
    state: has('Matched') ? 'matched' : 'saved',
  })),
  taken('plan', 'Plan no.', (has) => ({ plant: has('Plant'), every: has('Interval') })),
  taken('workOrder', 'Work order no.', (has) => ({
    plan: has('Plan no.'),
    plant: has('Plant'),
    state: 'released',
    cost: has('Work cost'),
  })),
  taken('reminder', 'Reminder no.', (has) => ({ bill: has('Bill no.'), step: 1, state: 'sent' })),
  taken('payment', 'Payment no.', (has) => ({
    document: has('Bill no.'),
    amount: has('Total expected'),
    credit: '0.50',
    state: 'matched',
  })),
];

/** Takes cases of the old systems over: each number that a case carries becomes a record, tied to the others of its case. What is there stays. */
export async function takeOver(pool: Pool, environment: string, cases: readonly OldCase[]): Promise<number> {
  const records = openRecords(pool, environment);
  let count = 0;
  for (const one of cases) {
    const has = (name: string) => one[name] ?? '';
    for (const { kind, name, toValues } of TAKEN) {
      if (has(name) === '' || (await records.find(kind, has(name)))) continue;
      await records.create(kind, toValues(has), has(name));
      count += 1;
    }
    count += await takeOverBills(pool, environment, has);
  }
  return count;
}

/** A round that was read has its readings; a bill of a round has its run. */
async function takeOverBills(pool: Pool, environment: string, has: (name: string) => string): Promise<number> {
  const records = openRecords(pool, environment);
  const batch = has('Reading batch');
  const isRead = batch !== '' && has('Consumption') !== '';
  const { uses = [], tariff = 'Household' } = DISTRICTS[has('District')] ?? {};
  if (isRead && (await records.list('reading', { batch }, 1)).length === 0)
    for (const [place, account] of (await records.list('account', { district: has('District') })).reverse().entries())
      await records.create('reading', {
        batch,
        account: account.number,
        last: account.reading,
        now: Number(account.reading) + (uses[place] ?? 0),
        is_estimate: '',
      });
  let count = 0;
  for (const name of ['Bill no.', 'Connection bill no.']) {
    const number = has(name);
    if (number === '' || (await records.find('bill', number))) continue;
    const [household] = batch === '' ? [] : (await records.list('account', { district: has('District') })).reverse();
    const total = has('Total expected') || has('Deposit due') || '12.00';
    const run = batch === '' ? undefined : await records.create('run', { batch, state: 'over', bills: uses.length, total });
    await records.create(
      'bill',
      {
        ...{ account: household?.number ?? has('Account no.'), run: run?.number ?? '', kind: run ? 'consumption' : 'first', tariff },
        ...{
          total,
          left_to_pay: has('Payment no.') ? 0 : total,
          state: has('Payment no.') ? 'paid' : 'open',
          due_on: addDays(today(), 14),
        },
      },
      number,
    );
    count += 1;
  }
  return count;
}
