import type { Screen } from '../../kit/screen.ts';
import { getInHand, refuse, say, takeInHand } from '../../kit/screen.ts';

export const SHELVES_SCREEN: Screen = {
  ...{ application: 'Stores', name: 'Shelves', look: 'newer' },
  draw: async ({ records, record }) => {
    const delivery = record === '' ? undefined : await records.find('delivery', record);
    const order = delivery && (await records.find('order', delivery.order_number));
    const [material] = order ? await records.list('material', { name: order.material }) : [];
    return {
      fields: [{ label: 'Delivery note', kind: 'text', isLookedUp: true }],
      shown:
        delivery && order
          ? [
              ['Delivered', `${delivery.quantity} of ${order.material}`],
              ['Stock', material?.stock ?? '0'],
            ]
          : [],
      buttons: delivery ? ['Shelve'] : [],
    };
  },
  change: { 'Delivery note': takeInHand('delivery', 'Delivery note') },
  press: {
    Shelve: async (desk) => {
      const delivery = await getInHand(desk, 'delivery');
      const order = delivery && (await desk.records.find('order', delivery.order_number));
      const [material] = order ? await desk.records.list('material', { name: order.material }) : [];
      if (!delivery || !material) return;
      if (delivery.shelved !== '') return refuse(desk, 'This delivery is on the shelves.');
      await desk.records.change('material', material.number, { stock: Number(material.stock) + Number(delivery.quantity) });
      await desk.records.change('delivery', delivery.number, { shelved: 'yes' });
      say(desk, `The stock of ${material.name} rises`);
    },
  },
};
