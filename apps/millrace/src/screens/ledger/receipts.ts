import { readCents } from '../../data/charges.ts';
import type { Desk, Screen } from '../../kit/screen.ts';
import { beginNew, getInHand, listRecords, lookUp, refuse, say, takeInHand } from '../../kit/screen.ts';

export const RECEIPTS_SCREEN: Screen = {
  ...{ application: 'Ledger', name: 'Receipts', look: 'older' },
  draw: async (desk) => {
    const { records, record, mode, values } = desk;
    const receipt = record === '' ? undefined : await records.find('receipt', record);
    const number = receipt?.quote ?? (mode === 'new' ? (values['Quote number'] ?? '') : '');
    const quote = number === '' ? undefined : await records.find('quote', number);
    const application = quote && (await records.find('application', quote.application));
    return {
      fields: [
        { label: 'Receipt number', kind: 'text', isLookedUp: true },
        ...(mode === 'new'
          ? ([
              { label: 'Quote number', kind: 'text', isLookedUp: true },
              { label: 'Amount', kind: 'text' },
            ] as const)
          : []),
        ...(values['Refund number'] && mode === 'refunded' ? ([{ label: 'Refund number', kind: 'text', isFixed: true }] as const) : []),
      ],
      shown: [
        ...(application ? ([['Customer name', application.customer]] as const) : []),
        ...(quote
          ? ([
              ['Deposit', quote.deposit],
              ['Left to pay on the deposit', receipt ? '0.00' : quote.deposit],
            ] as const)
          : []),
        ...(receipt
          ? ([
              ['Paid', receipt.amount],
              ['The receipt is', receipt.state],
            ] as const)
          : []),
      ],
      buttons: ['New receipt', ...(mode === 'new' ? ['Take payment'] : []), ...(receipt ? ['Refund'] : [])],
      tables:
        receipt || mode === 'new'
          ? []
          : [
              await listRecords(desk, 'receipt', 'Newest receipts', {
                Receipt: (row) => row.number,
                Quote: (row) => row.quote,
                Sum: (row) => row.amount,
              }),
            ],
    };
  },
  change: {
    'Receipt number': takeInHand('receipt', 'Receipt number'),
    'Quote number': async (desk) => {
      const quote = await lookUp(desk, 'quote', 'Quote number');
      if (quote?.state === 'lapsed') refuse(desk, 'This quote has lapsed; no deposit can be taken.');
    },
  },
  press: {
    'New receipt': beginNew,
    'Take payment': takePayment,
    Refund: async (desk) => {
      const receipt = await getInHand(desk, 'receipt');
      if (!receipt) return;
      if (receipt.state === 'refunded') return refuse(desk, 'This receipt has been refunded.');
      const made = await desk.records.create('refund', { paid_back: receipt.number, amount: receipt.amount });
      await desk.records.change('receipt', receipt.number, { state: 'refunded' });
      desk.values['Refund number'] = made.number;
      desk.mode = 'refunded';
      say(desk, `${receipt.amount} goes back`);
    },
  },
};

async function takePayment(desk: Desk): Promise<void> {
  const { values, records } = desk;
  const quote = await lookUp(desk, 'quote', 'Quote number');
  const cents = readCents(values['Amount'] ?? '');
  if (!quote) return desk.isRefused ? undefined : refuse(desk, 'Quote number is missing.');
  if (quote.state === 'lapsed') return refuse(desk, 'This quote has lapsed; no deposit can be taken.');
  if (cents === undefined) return refuse(desk, 'Amount should be money, such as 256.25.');
  if (cents !== Math.round(Number(quote.deposit) * 100)) return refuse(desk, `The deposit is ${quote.deposit}.`);
  const made = await records.create('receipt', { quote: quote.number, amount: quote.deposit, state: 'taken' });
  await records.change('quote', quote.number, { state: 'paid' });
  Object.assign(desk, { record: made.number, mode: '' });
  values['Receipt number'] = made.number;
  say(desk, 'Payment taken');
}
