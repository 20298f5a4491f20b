import type { Screen } from '../../kit/screen.ts';
import { getInHand, say, takeInHand } from '../../kit/screen.ts';

const HOUSEHOLDS = ['number 2', 'number 4', 'number 6', 'number 8', 'number 10', 'number 12'];

export const NOTICES_SCREEN: Screen = {
  ...{ application: 'Customer', name: 'Notices', look: 'older' },
  draw: async ({ records, record, mode }) => {
    const job = record === '' ? undefined : await records.find('job', record);
    return {
      fields: [{ label: 'Job number', kind: 'text', isLookedUp: true }],
      shown: job ? [['Street', job.place]] : [],
      sentences: mode === 'warned' ? ['A message went to each household'] : [],
      buttons: job ? ['Warn all'] : [],
      tables: job
        ? [
            {
              title: 'Households in the shut-off street',
              headings: ['Household', 'Message'],
              rows: HOUSEHOLDS.map((house) => [`${job.place}, ${house}`, job.warned === '' ? '' : 'sent']),
            },
          ]
        : [],
    };
  },
  change: { 'Job number': takeInHand('job', 'Job number') },
  press: {
    'Warn all': async (desk) => {
      const job = await getInHand(desk, 'job');
      if (!job) return;
      await desk.records.change('job', job.number, { warned: 'all' });
      desk.mode = 'warned';
      say(desk, `${HOUSEHOLDS.length} messages sent`);
    },
  },
};
