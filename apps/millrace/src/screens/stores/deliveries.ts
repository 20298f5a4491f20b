import type { Desk, Screen } from '../../kit/screen.ts';
import { getInHand, refuse, say, takeInHand } from '../../kit/screen.ts';

const MANY = 40;

export const DELIVERIES_SCREEN: Screen = {
  ...{ application: 'Stores', name: 'Deliveries', look: 'older' },
  draw: async ({ records, record, values, mode }) => {
    const order = record === '' ? undefined : await records.find('order', record);
    return {
      fields: [
        { label: 'Order number', kind: 'text', isLookedUp: true },
        ...(order ? ([{ label: 'Quantity delivered', kind: 'text' }] as const) : []),
        ...(values['Delivery note'] && mode === 'taken' ? ([{ label: 'Delivery note', kind: 'text', isFixed: true }] as const) : []),
      ],
      shown: order
        ? [
            ['Expected', `${order.quantity} of ${order.material}`],
            ['Still open on the order', order.open_quantity],
          ]
        : [],
      sentences: mode === 'taken' && order && Number(order.open_quantity) > 0 ? ['The rest stays open on the order'] : [],
      buttons: order ? ['Take delivery'] : [],
    };
  },
  change: { 'Order number': takeInHand('order', 'Order number') },
  press: { 'Take delivery': takeDelivery },
};

async function takeDelivery(desk: Desk): Promise<void> {
  const { records, faults, values } = desk;
  const order = await getInHand(desk, 'order');
  const quantity = values['Quantity delivered']?.trim() ?? '';
  if (!order) return;
  if (!/^[1-9]\d*$/.test(quantity)) return refuse(desk, 'Quantity delivered is a whole number above 0.');
  if (Number(quantity) > Number(order.open_quantity)) return refuse(desk, `Only ${order.open_quantity} are open on this order.`);
  const [before] = await records.list('delivery', {}, 1);
  const isTwice = faults.has('note') && Number(quantity) >= MANY && before !== undefined;
  const note = isTwice ? before.number : (await records.create('delivery', { order_number: order.number, quantity, shelved: '' })).number;
  await records.change('order', order.number, { open_quantity: Number(order.open_quantity) - Number(quantity) });
  values['Delivery note'] = note;
  desk.mode = 'taken';
  say(desk, 'Delivery taken');
}
