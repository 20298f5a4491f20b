import type { Screen } from '../../kit/screen.ts';
import { getInHand, takeInHand } from '../../kit/screen.ts';

export const WORK_ORDERS_SCREEN: Screen = {
  ...{ application: 'Works', name: 'Work orders', look: 'newer' },
  draw: async ({ records, record }) => {
    const own = record === '' ? undefined : await records.find('workOrder', record);
    const [permit] = own ? await records.list('permit', { work_order: own.number }) : [];
    const [plant] = own ? await records.list('plant', { name: own.plant }) : [];
    return {
      fields: [{ label: 'Work order', kind: 'text', isLookedUp: true }],
      shown: own
        ? [
            ['Plant', own.plant],
            ['The plant is', plant?.state ?? 'in service'],
            ['Permit', permit?.number ?? 'none'],
            ['The work is', own.state],
          ]
        : [],
      buttons: own ? ['Begin', 'Finish'] : [],
    };
  },
  change: { 'Work order': takeInHand('workOrder', 'Work order') },
  press: {
    Begin: (desk) => move(desk, 'begun', 'out of service'),
    Finish: (desk) => move(desk, 'finished', 'in service'),
  },
};

async function move(desk: Parameters<NonNullable<Screen['press']>[string]>[0], state: string, plantState: string): Promise<void> {
  const own = await getInHand(desk, 'workOrder');
  if (!own) return;
  const [plant] = await desk.records.list('plant', { name: own.plant });
  await desk.records.change('workOrder', own.number, { state });
  if (plant) await desk.records.change('plant', plant.number, { state: plantState });
}
