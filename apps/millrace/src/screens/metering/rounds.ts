import { DISTRICTS } from '../../data/districts.ts';
import type { Screen } from '../../kit/screen.ts';
import { listRecords, refuse, say, toOptions } from '../../kit/screen.ts';

export const ROUNDS_SCREEN: Screen = {
  ...{ application: 'Metering', name: 'Rounds', look: 'older' },
  draw: async (desk) => ({
    fields: [
      { label: 'District', kind: 'list', options: toOptions(...Object.keys(DISTRICTS)) },
      ...(desk.values['Batch number'] ? ([{ label: 'Batch number', kind: 'text', isFixed: true }] as const) : []),
    ],
    buttons: ['Plan round'],
    tables: [
      await listRecords(desk, 'round', 'Newest rounds', {
        Round: (row) => row.number,
        Where: (row) => row.district,
        State: (row) => row.state,
      }),
    ],
  }),
  press: {
    'Plan round': async (desk) => {
      const district = desk.values['District'] ?? '';
      if (district === '') return refuse(desk, 'Pick a district.');
      const made = await desk.records.create('round', { district, state: 'planned' });
      desk.values['Batch number'] = made.number;
      say(desk, 'Round planned');
    },
  },
};
