import { addDays, printDay, today } from '../../data/days.ts';
import type { Desk, Screen } from '../../kit/screen.ts';
import { getInHand, lookUp, refuse, say, takeInHand } from '../../kit/screen.ts';

export const PAYMENTS_SCREEN: Screen = {
  ...{ application: 'Ledger', name: 'Payments', look: 'newer' },
  draw: async ({ records, record, values, mode }) => {
    const payment = record === '' ? undefined : await records.find('payment', record);
    const bill = values['Bill number'] ? await records.find('bill', values['Bill number']) : undefined;
    const invoice = values['Invoice number'] ? await records.find('invoice', values['Invoice number']) : undefined;
    const open = mode === 'imported' ? (await records.list('bill', { kind: 'consumption', state: 'open' })).slice(0, 60) : [];
    return {
      fields: [
        { label: 'Payment number', kind: 'text', isLookedUp: true },
        { label: 'Bill number', kind: 'text', isLookedUp: true },
        { label: 'Invoice number', kind: 'text', isLookedUp: true },
      ],
      shown: [
        ...(bill ? ([['Left to pay', bill.left_to_pay]] as const) : []),
        ...(invoice
          ? ([
              ['Invoice of', invoice.supplier],
              ['Amount', invoice.amount],
              ['The invoice is', invoice.state],
            ] as const)
          : []),
        ...(payment
          ? ([
              ['The payment is', payment.state],
              ['Credit', payment.credit],
            ] as const)
          : []),
      ],
      sentences:
        mode === 'matched'
          ? ['Nothing left to pay']
          : mode === 'paid' && payment
            ? [`${payment.amount} goes out on ${printDay(payment.due_on)}`]
            : [],
      buttons: ['Import bank file', ...(bill ? ['Match'] : []), ...(invoice ? ['Pay'] : []), ...(payment ? ['Refund credit'] : [])],
      tables:
        mode === 'imported'
          ? [{ title: 'Payments with their bill numbers', headings: ['Bill', 'Paid'], rows: open.map((row) => [row.number, row.total]) }]
          : [],
    };
  },
  change: {
    'Payment number': takeInHand('payment', 'Payment number'),
    'Bill number': async (desk) => void (await lookUp(desk, 'bill', 'Bill number')),
    'Invoice number': async (desk) => void (await lookUp(desk, 'invoice', 'Invoice number')),
  },
  press: { 'Import bank file': (desk) => void (desk.mode = 'imported'), Match: match, Pay: pay, 'Refund credit': refund },
};

async function match(desk: Desk): Promise<void> {
  const bill = await lookUp(desk, 'bill', 'Bill number');
  if (!bill) return;
  if (Number(bill.left_to_pay) === 0) return refuse(desk, 'Nothing is left to pay on this bill.');
  // People pay round sums: what is over is a credit.
  const paid = Math.ceil(Number(bill.left_to_pay));
  const made = await desk.records.create('payment', {
    ...{ document: bill.number, amount: paid, credit: (paid - Number(bill.left_to_pay)).toFixed(2), state: 'matched' },
  });
  await desk.records.change('bill', bill.number, { left_to_pay: 0, state: 'paid' });
  Object.assign(desk, { record: made.number, mode: 'matched' });
  desk.values['Payment number'] = made.number;
}

async function pay(desk: Desk): Promise<void> {
  const invoice = await lookUp(desk, 'invoice', 'Invoice number');
  if (!invoice) return;
  if (invoice.state !== 'matched') return refuse(desk, `The invoice is ${invoice.state}; it has to be matched first.`);
  const made = await desk.records.create('payment', {
    document: invoice.number,
    amount: invoice.amount,
    state: 'to go out',
    due_on: addDays(today(), 14),
  });
  await desk.records.change('invoice', invoice.number, { state: 'paid' });
  Object.assign(desk, { record: made.number, mode: 'paid' });
}

async function refund(desk: Desk): Promise<void> {
  const payment = await getInHand(desk, 'payment');
  if (!payment) return;
  await desk.records.create('refund', { paid_back: payment.number, amount: payment.credit });
  await desk.records.change('payment', payment.number, { state: 'refunded' });
  say(desk, 'Refunded');
}
