import type { Screen } from '../../kit/screen.ts';
import { getInHand, refuse, say, takeInHand } from '../../kit/screen.ts';

export const SETTLEMENTS_SCREEN: Screen = {
  ...{ application: 'Ledger', name: 'Settlements', look: 'older' },
  draw: async ({ records, record }) => {
    const own = record === '' ? undefined : await records.find('workOrder', record);
    return {
      fields: [{ label: 'Work order', kind: 'text', isLookedUp: true }],
      shown: own
        ? [
            ['A cost of', own.cost || '0.00'],
            ['The work is', own.state],
            ...(own.cost_on ? ([['The cost is on', own.cost_on]] as const) : []),
          ]
        : [],
      buttons: own ? ['Settle'] : [],
    };
  },
  change: { 'Work order': takeInHand('workOrder', 'Work order') },
  press: {
    Settle: async (desk) => {
      const own = await getInHand(desk, 'workOrder');
      if (!own) return;
      if (own.cost === '') return refuse(desk, 'Nothing is booked on this work order.');
      const isWrong = desk.faults.has('settle') && own.plant.endsWith('North weir');
      await desk.records.change('workOrder', own.number, { state: 'settled', cost_on: isWrong ? 'North weir' : own.plant });
      say(desk, 'Settled');
    },
  },
};
