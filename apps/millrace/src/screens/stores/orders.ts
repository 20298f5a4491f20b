import { printCents } from '../../data/charges.ts';
import type { Row } from '../../data/kinds.ts';
import type { Desk, Screen } from '../../kit/screen.ts';
import { lookUp, refuse, say } from '../../kit/screen.ts';

/** Suppliers, and what they ask more than the cheapest, in hundredths. */
const SUPPLIERS = [
  { name: 'Fenland Supply', more: 0 },
  { name: 'Aldgate & Roe', more: 4 },
  { name: 'Portside Stock', more: 11 },
] as const;

export const ORDERS_SCREEN: Screen = {
  ...{ application: 'Stores', name: 'Orders', look: 'newer' },
  draw: async (desk) => {
    const { records, record, mode, values } = desk;
    const order = record === '' ? undefined : await records.find('order', record);
    const requisition = values['Requisition number'] ? await records.find('requisition', values['Requisition number']) : undefined;
    const cents = requisition ? await priceOf(desk, requisition) : 0;
    return {
      fields: [
        { label: 'Requisition number', kind: 'text', isLookedUp: true },
        ...(order ? ([{ label: 'Order number', kind: 'text', isFixed: true }] as const) : []),
      ],
      shown: [
        ...(requisition
          ? ([
              ['Asked for', `${requisition.quantity} of ${requisition.material}`],
              ['Requisition is', requisition.state],
            ] as const)
          : []),
        ...(order
          ? ([
              ['Supplier', order.supplier],
              ['The order is', order.state],
            ] as const)
          : []),
      ],
      sentences: mode === 'choosing' ? ['The supplier with the lowest price first'] : [],
      buttons: [...(requisition ? ['Make order'] : []), ...(mode === 'choosing' ? ['Send order'] : [])],
      tables:
        mode === 'choosing'
          ? [
              {
                title: 'Offers',
                headings: ['Supplier', 'Price each'],
                rows: SUPPLIERS.map(({ name, more }) => [name, printCents(Math.round((cents * (100 + more)) / 100))]),
              },
            ]
          : [],
    };
  },
  change: { 'Requisition number': async (desk) => void (await lookUp(desk, 'requisition', 'Requisition number')) },
  press: {
    'Make order': async (desk) => {
      const requisition = await lookUp(desk, 'requisition', 'Requisition number');
      if (!requisition) return;
      if (requisition.state !== 'approved') return refuse(desk, `The requisition is ${requisition.state}; it has to be approved first.`);
      desk.mode = 'choosing';
    },
    'Send order': async (desk) => {
      const requisition = await lookUp(desk, 'requisition', 'Requisition number');
      if (!requisition) return;
      const made = await desk.records.create('order', {
        ...{ requisition: requisition.number, supplier: SUPPLIERS[0].name, material: requisition.material, quantity: requisition.quantity },
        ...{ open_quantity: requisition.quantity, price: printCents(await priceOf(desk, requisition)), state: 'sent' },
      });
      Object.assign(desk, { record: made.number, mode: '' });
      desk.values['Order number'] = made.number;
      say(desk, 'Order sent');
    },
  },
};

async function priceOf({ records }: Desk, { material }: Row<'requisition'>): Promise<number> {
  const [found] = await records.list('material', { name: material });
  return Math.round(Number(found?.price ?? 0) * 100);
}
