import { printDay, today } from '../../data/days.ts';
import type { Screen } from '../../kit/screen.ts';
import { getInHand, refuse, say, takeInHand, toOptions } from '../../kit/screen.ts';

export const SAMPLES_SCREEN: Screen = {
  ...{ application: 'Works', name: 'Samples', look: 'newer' },
  draw: async ({ records, record, mode }) => {
    const job = record === '' ? undefined : await records.find('job', record);
    return {
      fields: [
        { label: 'Job number', kind: 'text', isLookedUp: true },
        ...(mode === 'sampling'
          ? ([{ label: 'Result', kind: 'list', options: toOptions('Clear', 'Cloudy', 'To be taken again') }] as const)
          : []),
      ],
      shown: [
        ...(job ? ([['Place', job.place]] as const) : []),
        ...(mode === 'sampling' ? ([['Sample of', printDay(today())]] as const) : []),
      ],
      buttons: [...(job ? ['New sample'] : []), ...(mode === 'sampling' ? ['Save'] : [])],
    };
  },
  change: { 'Job number': takeInHand('job', 'Job number') },
  press: {
    'New sample': (desk) => void (desk.mode = 'sampling'),
    Save: async (desk) => {
      const job = await getInHand(desk, 'job');
      const result = desk.values['Result'] ?? '';
      if (!job) return;
      if (result === '') return refuse(desk, 'Pick a result.');
      await desk.records.create('sample', { job: job.number, taken_on: today(), result });
      desk.mode = '';
      say(desk, 'Sample saved');
    },
  },
};
