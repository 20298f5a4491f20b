import { printCents } from '../../data/charges.ts';
import { printDay, today } from '../../data/days.ts';
import type { Screen } from '../../kit/screen.ts';
import { getInHand, listRecords, lookUp, refuse, say, takeInHand } from '../../kit/screen.ts';

const PARTS = 4;

export const ACCOUNTS_SCREEN: Screen = {
  ...{ application: 'Customer', name: 'Accounts', look: 'newer' },
  draw: async (desk) => {
    const { records, record, values, mode } = desk;
    const own = record === '' ? undefined : await records.find('account', record);
    const reminder = values['Reminder number'] ? await records.find('reminder', values['Reminder number']) : undefined;
    const bill = reminder && (await records.find('bill', reminder.bill));
    return {
      fields: [
        { label: 'Account number', kind: 'text', isLookedUp: true },
        { label: 'Reminder number', kind: 'text', isLookedUp: true },
        ...(own ? ([{ label: 'Reading', kind: 'text' }] as const) : []),
      ],
      shown: [
        ...(own
          ? ([
              ['Holder', own.customer],
              ['State', own.state],
              ['Last reading', own.read_on === '' ? own.reading : `${own.reading} on ${printDay(own.read_on)}`],
              ...(own.letter ? ([['Letter', own.letter]] as const) : []),
            ] as const)
          : []),
        ...(bill
          ? ([
              ['Bill', bill.number],
              ['Owed', bill.total],
            ] as const)
          : []),
      ],
      buttons: [...(own ? ['Send welcome letter', 'Save reading'] : []), ...(bill ? ['Agree instalments'] : [])],
      tables:
        mode === 'instalments' && bill
          ? [{ title: 'Instalments', headings: ['Part', 'Amount'], rows: splitCents(Math.round(Number(bill.total) * 100)) }]
          : own || bill
            ? []
            : [
                await listRecords(desk, 'account', 'Newest accounts', {
                  Account: (row) => row.number,
                  Holder: (row) => row.customer,
                  State: (row) => row.state,
                }),
              ],
    };
  },
  change: {
    'Account number': takeInHand('account', 'Account number'),
    'Reminder number': async (desk) => void (await lookUp(desk, 'reminder', 'Reminder number')),
  },
  press: {
    'Send welcome letter': async (desk) => {
      const own = await getInHand(desk, 'account');
      if (!own) return;
      await desk.records.change('account', own.number, { letter: `sent on ${printDay(today())}` });
      say(desk, 'Letter sent today');
    },
    'Save reading': async (desk) => {
      const own = await getInHand(desk, 'account');
      const reading = desk.values['Reading']?.trim() ?? '';
      if (!own) return;
      if (!/^\d+$/.test(reading)) return refuse(desk, 'A reading is a whole number.');
      await desk.records.change('account', own.number, { reading, read_on: today() });
      say(desk, `Thank you: ${reading} on ${printDay(today())}`);
    },
    'Agree instalments': (desk) => {
      desk.mode = 'instalments';
      say(desk, 'Equal parts that add up to the bill');
    },
  },
};

/** Equal parts; the last takes the cents that are left. */
function splitCents(cents: number): string[][] {
  const part = Math.floor(cents / PARTS);
  return Array.from({ length: PARTS }, (_, k) => [
    `Part ${k + 1} of ${PARTS}`,
    printCents(k === PARTS - 1 ? cents - part * (PARTS - 1) : part),
  ]);
}
