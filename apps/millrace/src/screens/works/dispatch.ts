import type { Screen } from '../../kit/screen.ts';
import { getInHand, refuse, say, takeInHand, toOptions } from '../../kit/screen.ts';

export const CREWS = ['North', 'South', 'Harbour'] as const;

export const DISPATCH_SCREEN: Screen = {
  ...{ application: 'Works', name: 'Dispatch', look: 'older' },
  draw: async ({ records, record, environment }) => {
    const job = record === '' ? undefined : await records.find('job', record);
    const [permit] = job ? await records.list('permit', { job: job.number }) : [];
    return {
      fields: [
        { label: 'Job number', kind: 'text', isLookedUp: true },
        ...(job ? ([{ label: 'Crew', kind: 'list', options: toOptions(...CREWS) }] as const) : []),
      ],
      shown: job
        ? [
            ['Place', job.place],
            ['Permit beside the job', permit?.number ?? 'none'],
            ['Job is', job.state],
          ]
        : [],
      buttons: job ? ['Send'] : [],
      ...(job && job.state === 'sent'
        ? { frame: { title: `Tablet of crew ${job.crew}`, address: `/${environment}/works/tablet/${job.number}` } }
        : {}),
    };
  },
  change: { 'Job number': takeInHand('job', 'Job number') },
  press: {
    Send: async (desk) => {
      const job = await getInHand(desk, 'job');
      const crew = desk.values['Crew'] ?? '';
      if (!job) return;
      if (crew === '') return refuse(desk, 'Pick a crew.');
      await desk.records.change('job', job.number, { crew, state: 'sent' });
      say(desk, 'Job sent');
    },
  },
};
