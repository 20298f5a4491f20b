import type { Screen } from '../../kit/screen.ts';
import { getInHand, refuse, say, takeInHand } from '../../kit/screen.ts';
import { PARTS_FOR_REPAIR } from './reservations.ts';

const METER = 'Meter';

export const ISSUES_SCREEN: Screen = {
  ...{ application: 'Stores', name: 'Issues', look: 'older' },
  draw: async ({ records, record, values, mode }) => {
    const job = record === '' ? undefined : await records.find('job', record);
    const list = values['List number'] ? await records.find('partsList', values['List number']) : undefined;
    const [meters] = await records.list('material', { name: METER });
    return {
      fields: [
        { label: 'Job number', kind: 'text', isLookedUp: true },
        { label: 'List number', kind: 'text', isLookedUp: true },
        ...(values['Serial number'] && mode === 'issued' ? ([{ label: 'Serial number', kind: 'text', isFixed: true }] as const) : []),
      ],
      shown: [
        ...(job
          ? ([
              ['Parts list', 'One meter'],
              ['Stock of meters', meters?.stock ?? '0'],
            ] as const)
          : []),
        ...(list
          ? ([
              ['The list is', list.state],
              ['Parts', list.parts],
              ['Value of parts', list.value],
            ] as const)
          : []),
      ],
      buttons: [...(job ? ['Issue'] : []), ...(list ? ['Book as used'] : [])],
    };
  },
  change: {
    'Job number': takeInHand('job', 'Job number'),
    'List number': async (desk) => {
      if (desk.values['List number'] && !(await desk.records.find('partsList', desk.values['List number'])))
        refuse(desk, `There is no list number ${desk.values['List number']}.`);
    },
  },
  press: {
    Issue: async (desk) => {
      const job = await getInHand(desk, 'job');
      const [meters] = await desk.records.list('material', { name: METER });
      if (!job || !meters) return;
      if (Number(meters.stock) < 1) return refuse(desk, 'There is no meter in the store.');
      const made = await desk.records.create('meter', { job: job.number, state: 'issued' });
      await desk.records.change('material', meters.number, { stock: Number(meters.stock) - 1 });
      desk.values['Serial number'] = made.number;
      desk.mode = 'issued';
      say(desk, 'Meter issued');
    },
    'Book as used': async (desk) => {
      const list = await desk.records.find('partsList', desk.values['List number'] ?? '');
      if (!list) return refuse(desk, 'List number is missing.');
      for (const { name, pieces } of PARTS_FOR_REPAIR) {
        const [part] = await desk.records.list('material', { name });
        if (part) await desk.records.change('material', part.number, { stock: Number(part.stock) - pieces });
      }
      await desk.records.change('partsList', list.number, { state: 'used' });
      say(desk, 'Booked');
    },
  },
};
