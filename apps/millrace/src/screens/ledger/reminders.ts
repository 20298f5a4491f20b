import { addDays, today } from '../../data/days.ts';
import type { Screen } from '../../kit/screen.ts';
import { getInHand, say, takeInHand } from '../../kit/screen.ts';

export const REMINDERS_SCREEN: Screen = {
  ...{ application: 'Ledger', name: 'Reminders', look: 'older' },
  draw: async ({ records, record, values, mode }) => {
    const bill = record === '' ? undefined : await records.find('bill', record);
    return {
      fields: [
        { label: 'Bill number', kind: 'text', isLookedUp: true },
        ...(values['Reminder number'] && mode === 'reminded' ? ([{ label: 'Reminder number', kind: 'text', isFixed: true }] as const) : []),
      ],
      shown: bill
        ? [
            ['Left to pay', bill.left_to_pay],
            ['The bill is', bill.state],
          ]
        : [],
      sentences: mode === 'reminded' ? ['A first reminder'] : [],
      buttons: bill ? ['Age by 29 days', 'Age by 30 days'] : [],
    };
  },
  change: { 'Bill number': takeInHand('bill', 'Bill number') },
  press: {
    'Age by 29 days': (desk) => age(desk, 29),
    'Age by 30 days': (desk) => age(desk, 30),
  },
};

async function age(desk: Parameters<NonNullable<Screen['press']>[string]>[0], days: number): Promise<void> {
  const bill = await getInHand(desk, 'bill');
  if (!bill) return;
  await desk.records.change('bill', bill.number, { due_on: addDays(today(), -days) });
  if (days < (desk.faults.has('reminder') ? 29 : 30)) return say(desk, 'Nobody is reminded yet');
  const made = await desk.records.create('reminder', { bill: bill.number, step: 1, state: 'sent' });
  desk.values['Reminder number'] = made.number;
  desk.mode = 'reminded';
}
