import { printCents, workOutBill } from '../../data/charges.ts';
import { addDays, today } from '../../data/days.ts';
import type { Desk, Screen } from '../../kit/screen.ts';
import { getInHand, listRecords, lookUp, refuse, say, takeInHand } from '../../kit/screen.ts';

export const BILLS_SCREEN: Screen = {
  ...{ application: 'Billing', name: 'Bills', look: 'older' },
  draw: async (desk) => {
    const { records, record, values } = desk;
    const bill = record === '' ? undefined : await records.find('bill', record);
    const account = values['Account number'] ? await records.find('account', values['Account number']) : undefined;
    const quote = account?.quote ? await records.find('quote', account.quote) : undefined;
    return {
      fields: [
        { label: 'Bill number', kind: 'text', isLookedUp: true },
        { label: 'Account number', kind: 'text', isLookedUp: true },
      ],
      shown: [
        ...(account
          ? ([
              ['Holder', account.customer],
              ['First reading', account.reading],
              ...(quote
                ? ([
                    ['Connection charge', quote.charge],
                    ['Deposit paid', quote.deposit],
                  ] as const)
                : []),
            ] as const)
          : []),
        ...(bill
          ? ([
              ['Kind', bill.kind],
              ['Tariff', bill.tariff],
              ['Total', bill.total],
              ['The bill is', bill.state],
            ] as const)
          : []),
      ],
      buttons: [...(account ? ['Bill connection', 'Make first bill'] : []), ...(bill ? ['Hold back'] : [])],
      tables:
        bill || account
          ? []
          : [
              await listRecords(desk, 'bill', 'Newest bills', {
                Bill: (row) => row.number,
                Kind: (row) => row.kind,
                Sum: (row) => row.total,
                State: (row) => row.state,
              }),
            ],
    };
  },
  change: {
    'Bill number': takeInHand('bill', 'Bill number'),
    'Account number': async (desk) => void (await lookUp(desk, 'account', 'Account number')),
  },
  press: {
    'Bill connection': async (desk) => {
      const account = await lookUp(desk, 'account', 'Account number');
      const quote = account?.quote ? await desk.records.find('quote', account.quote) : undefined;
      if (!account || !quote) return refuse(desk, 'This account has no connection to bill.');
      const cents = Math.round((Number(quote.charge) - Number(quote.deposit)) * 100);
      await makeBill(desk, { account: account.number, kind: 'connection', tariff: 'Connection', cents });
      say(desk, `${printCents(cents)} is the charge less the deposit of ${quote.deposit}`);
    },
    'Make first bill': async (desk) => {
      const account = await lookUp(desk, 'account', 'Account number');
      if (!account) return;
      const tariff = account.tariff || 'Household';
      await makeBill(desk, { account: account.number, kind: 'first', tariff, cents: workOutBill(tariff, 0) });
      say(desk, 'Bill made');
    },
    'Hold back': async (desk) => {
      const bill = await getInHand(desk, 'bill');
      if (!bill) return;
      await desk.records.change('bill', bill.number, { state: 'held back' });
      say(desk, 'The bill is not in the print file');
    },
  },
};

interface NewBill {
  readonly account: string;
  readonly kind: string;
  readonly tariff: string;
  readonly cents: number;
}

async function makeBill(desk: Desk, { account, kind, tariff, cents }: NewBill): Promise<void> {
  const made = await desk.records.create('bill', {
    ...{ account, kind, tariff, total: cents / 100, left_to_pay: cents / 100, state: 'open', due_on: addDays(today(), 14) },
  });
  desk.record = made.number;
  desk.values['Bill number'] = made.number;
}
