import { printCents, readCents } from '../../data/charges.ts';
import type { Desk, Screen } from '../../kit/screen.ts';
import { beginNew, getInHand, listRecords, lookUp, refuse, say, takeInHand } from '../../kit/screen.ts';

export const INVOICES_SCREEN: Screen = {
  ...{ application: 'Ledger', name: 'Invoices', look: 'older' },
  draw: async (desk) => {
    const { records, record, mode, values } = desk;
    const own = record === '' ? undefined : await records.find('invoice', record);
    const ordered = own?.order_number ?? (mode === 'new' ? (values['Order number'] ?? '') : '');
    const order = ordered === '' ? undefined : await records.find('order', ordered);
    const difference = own && mode === 'compared' ? await findDifference(desk) : undefined;
    return {
      fields: [
        { label: 'Invoice number', kind: 'text', isLookedUp: true },
        ...(mode === 'new'
          ? ([
              { label: 'Order number', kind: 'text', isLookedUp: true },
              { label: 'Amount', kind: 'text' },
            ] as const)
          : []),
        ...(own ? ([{ label: 'Delivery note', kind: 'text', isLookedUp: true }] as const) : []),
      ],
      shown: [
        ...(order
          ? ([
              ['Supplier', order.supplier],
              ['Order', order.number],
            ] as const)
          : []),
        ...(own
          ? ([
              ['Sum', own.amount],
              ['The invoice is', own.state],
            ] as const)
          : []),
        ...(difference === undefined ? [] : ([['Difference', difference]] as const)),
      ],
      buttons: ['New invoice', ...(mode === 'new' ? ['Save'] : []), ...(own ? ['Match'] : [])],
      tables:
        own || mode === 'new'
          ? []
          : [
              await listRecords(desk, 'invoice', 'Newest invoices', {
                Invoice: (row) => row.number,
                From: (row) => row.supplier,
                Sum: (row) => row.amount,
                State: (row) => row.state,
              }),
            ],
    };
  },
  change: {
    'Invoice number': takeInHand('invoice', 'Invoice number'),
    'Order number': async (desk) => void (await lookUp(desk, 'order', 'Order number')),
    'Delivery note': async (desk) => {
      if (await lookUp(desk, 'delivery', 'Delivery note')) desk.mode = 'compared';
    },
  },
  press: {
    'New invoice': beginNew,
    Save: async (desk) => {
      const { values, records } = desk;
      const order = await lookUp(desk, 'order', 'Order number');
      const cents = readCents(values['Amount'] ?? '');
      if (!order) return desk.isRefused ? undefined : refuse(desk, 'Order number is missing.');
      if (cents === undefined) return refuse(desk, 'Amount should be money, such as 1240.00.');
      const made = await records.create('invoice', {
        order_number: order.number,
        supplier: order.supplier,
        amount: cents / 100,
        state: 'saved',
      });
      Object.assign(desk, { record: made.number, mode: '' });
      values['Invoice number'] = made.number;
      say(desk, 'Invoice saved');
    },
    Match: async (desk) => {
      const own = await getInHand(desk, 'invoice');
      const difference = await findDifference(desk);
      if (!own) return;
      if (difference !== '0.00')
        return refuse(desk, difference === undefined ? 'Name the delivery.' : `There is a difference of ${difference}.`);
      await desk.records.change('invoice', own.number, { state: 'matched', delivery: desk.values['Delivery note'] ?? '' });
      say(desk, 'Invoice matched');
    },
  },
};

/** Three ways: what the invoice asks for against what came of the order, at the order's price; undefined without a delivery of this order. */
async function findDifference({ records, record, values }: Desk): Promise<string | undefined> {
  const invoice = await records.find('invoice', record);
  const delivery = await records.find('delivery', values['Delivery note'] ?? '');
  const order = invoice && (await records.find('order', invoice.order_number));
  if (!invoice || !order || !delivery || delivery.order_number !== order.number) return undefined;
  const due = Math.round(Number(order.price) * 100) * Number(delivery.quantity);
  return printCents(Math.abs(Math.round(Number(invoice.amount) * 100) - due));
}
