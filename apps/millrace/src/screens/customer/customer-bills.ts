import type { Screen } from '../../kit/screen.ts';
import { getInHand, say, takeInHand } from '../../kit/screen.ts';

export const CUSTOMER_BILLS_SCREEN: Screen = {
  ...{ application: 'Customer', name: 'Bills', look: 'older' },
  draw: async ({ records, record, mode, environment }) => {
    const bill = record === '' ? undefined : await records.find('bill', record);
    return {
      fields: [{ label: 'Bill number', kind: 'text', isLookedUp: true }],
      shown: bill
        ? [
            ['Kind', bill.kind],
            ['Tariff', bill.tariff],
            ['Total', bill.total],
          ]
        : [],
      sentences: mode === 'explained' && bill ? [`One page, with the total ${bill.total}`] : [],
      buttons: bill ? ['Print explanation'] : [],
      tables: bill
        ? [
            {
              title: 'Every line with its tariff',
              headings: ['Line', 'Tariff'],
              rows: [
                ['Standing charge', bill.tariff],
                ['Water by cubic metre', bill.tariff],
              ],
            },
          ]
        : [],
      ...(mode === 'explained' && bill
        ? { file: { name: `${bill.number}.txt`, address: `/${environment}/files/bill/${bill.number}.txt` } }
        : {}),
    };
  },
  change: { 'Bill number': takeInHand('bill', 'Bill number') },
  press: {
    'Print explanation': async (desk) => {
      if (!(await getInHand(desk, 'bill'))) return;
      desk.mode = 'explained';
      say(desk, 'Explanation printed');
    },
  },
};
