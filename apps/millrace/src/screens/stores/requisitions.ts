import type { Screen } from '../../kit/screen.ts';
import { beginNew, getInHand, listRecords, refuse, say, takeInHand, toOptions } from '../../kit/screen.ts';

export const REQUISITIONS_SCREEN: Screen = {
  ...{ application: 'Stores', name: 'Requisitions', look: 'older' },
  draw: async (desk) => {
    const { records, record, mode } = desk;
    const own = record === '' ? undefined : await records.find('requisition', record);
    const materials = (await records.list('material')).map(({ name }) => name).sort();
    return {
      fields: [
        { label: 'Requisition number', kind: 'text', isLookedUp: true },
        ...(mode === 'new'
          ? ([
              { label: 'Material', kind: 'list', options: toOptions(...materials) },
              { label: 'Quantity', kind: 'text' },
            ] as const)
          : []),
      ],
      shown: own
        ? [
            ['Asked for', `${own.quantity} of ${own.material}`],
            ['The requisition is', own.state],
          ]
        : [],
      buttons: ['New requisition', ...(mode === 'new' ? ['Save'] : []), ...(own ? ['Approve'] : [])],
      tables:
        own || mode === 'new'
          ? []
          : [
              await listRecords(desk, 'requisition', 'Newest requisitions', {
                Requisition: (row) => row.number,
                Asked: (row) => `${row.quantity} of ${row.material}`,
                State: (row) => row.state,
              }),
            ],
    };
  },
  change: { 'Requisition number': takeInHand('requisition', 'Requisition number') },
  press: {
    'New requisition': beginNew,
    Save: async (desk) => {
      const { values, records } = desk;
      const quantity = values['Quantity']?.trim() ?? '';
      if (!values['Material']) return refuse(desk, 'Pick a material.');
      if (!/^[1-9]\d*$/.test(quantity)) return refuse(desk, 'Quantity is a whole number above 0.');
      const made = await records.create('requisition', { material: values['Material'], quantity, state: 'open' });
      Object.assign(desk, { record: made.number, mode: '' });
      values['Requisition number'] = made.number;
      say(desk, 'Requisition saved');
    },
    Approve: async (desk) => {
      const own = await getInHand(desk, 'requisition');
      if (!own) return;
      if (!desk.user.mayApprove) return refuse(desk, `${desk.user.name}s may not approve.`);
      await desk.records.change('requisition', own.number, { state: 'approved' });
      say(desk, 'Approved');
    },
  },
};
