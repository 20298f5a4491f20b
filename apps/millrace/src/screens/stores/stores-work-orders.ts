import { printCents } from '../../data/charges.ts';
import type { Screen } from '../../kit/screen.ts';
import { getInHand, refuse, say, takeInHand } from '../../kit/screen.ts';

/** What an upkeep costs in hours, beside its parts. */
const HOURS_CENTS = 3 * 6_200;

export const STORES_WORK_ORDERS_SCREEN: Screen = {
  ...{ application: 'Stores', name: 'Work orders', look: 'older' },
  draw: async ({ records, record }) => {
    const own = record === '' ? undefined : await records.find('workOrder', record);
    return {
      fields: [
        { label: 'Work order', kind: 'text', isLookedUp: true },
        { label: 'List number', kind: 'text' },
      ],
      shown: own ? [['Plant', own.plant], ...(own.cost ? ([['Cost', own.cost]] as const) : [])] : [],
      buttons: own ? ['Book'] : [],
    };
  },
  change: { 'Work order': takeInHand('workOrder', 'Work order') },
  press: {
    Book: async (desk) => {
      const own = await getInHand(desk, 'workOrder');
      const list = await desk.records.find('partsList', desk.values['List number'] ?? '');
      if (!own) return;
      if (!list) return refuse(desk, `There is no list number ${desk.values['List number'] ?? ''}.`);
      await desk.records.change('workOrder', own.number, { cost: printCents(HOURS_CENTS + Math.round(Number(list.value) * 100)) });
      await desk.records.change('partsList', list.number, { state: 'used' });
      say(desk, 'Booked');
    },
  },
};
