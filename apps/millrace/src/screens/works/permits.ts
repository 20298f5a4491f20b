import { printDay, readDay, today } from '../../data/days.ts';
import type { Desk, Screen } from '../../kit/screen.ts';
import { getInHand, lookUp, refuse, say, takeInHand } from '../../kit/screen.ts';

export const PERMITS_SCREEN: Screen = {
  ...{ application: 'Works', name: 'Permits', look: 'older' },
  draw: async ({ records, record }) => {
    const permit = record === '' ? undefined : await records.find('permit', record);
    return {
      fields: [
        { label: 'Permit number', kind: 'text', isLookedUp: true },
        { label: 'Job number', kind: 'text', isLookedUp: true },
        { label: 'Work order', kind: 'text', isLookedUp: true },
        { label: 'From', kind: 'day' },
      ],
      shown: permit
        ? [
            ['Permit is', permit.state],
            ['Holds from', printDay(permit.from_day)],
          ]
        : [],
      buttons: ['Ask for permit', ...(permit ? ['Give back'] : [])],
    };
  },
  change: {
    'Permit number': takeInHand('permit', 'Permit number'),
    'Job number': async (desk) => void (await lookUp(desk, 'job', 'Job number')),
    'Work order': async (desk) => void (await lookUp(desk, 'workOrder', 'Work order')),
  },
  press: {
    'Ask for permit': askForPermit,
    'Give back': async (desk) => {
      const permit = await getInHand(desk, 'permit');
      if (!permit) return;
      await desk.records.change('permit', permit.number, { state: 'over' });
      say(desk, 'Permit given back');
    },
  },
};

async function askForPermit(desk: Desk): Promise<void> {
  const { values, records } = desk;
  const job = await lookUp(desk, 'job', 'Job number');
  const workOrder = await lookUp(desk, 'workOrder', 'Work order');
  if (!job && !workOrder) return desk.isRefused ? undefined : refuse(desk, 'A permit is for a job or a work order.');
  const from = values['From'] ? readDay(values['From']) : today();
  if (!from) return refuse(desk, 'From should be a day, such as 2026-03-07.');
  const state = workOrder ? 'waits for a second signature' : 'granted';
  const made = await records.create('permit', { job: job?.number ?? '', work_order: workOrder?.number ?? '', from_day: from, state });
  desk.record = made.number;
  values['Permit number'] = made.number;
  say(desk, workOrder ? 'A second person must sign' : 'Permit granted');
}
