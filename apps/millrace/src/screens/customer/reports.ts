import { printDay } from '../../data/days.ts';
import type { Screen } from '../../kit/screen.ts';
import { beginNew, getInHand, listRecords, refuse, say, takeInHand, toOptions } from '../../kit/screen.ts';

export const REPORTS_SCREEN: Screen = {
  ...{ application: 'Customer', name: 'Reports', look: 'newer' },
  draw: async (desk) => {
    const { records, record, mode } = desk;
    const own = record === '' ? undefined : await records.find('report', record);
    const job = own?.job ? await records.find('job', own.job) : undefined;
    const near =
      mode === 'near' && own ? (await records.list('report', { place: own.place })).filter(({ number }) => number !== own.number) : [];
    return {
      fields: [
        { label: 'Report number', kind: 'text', isLookedUp: true },
        ...(mode === 'new'
          ? ([
              { label: 'Place', kind: 'text' },
              { label: 'How bad', kind: 'list', options: toOptions('Drip', 'Running', 'Burst') },
            ] as const)
          : []),
      ],
      shown: own
        ? [
            ['Leak at', own.place],
            ['Reported as', own.how_bad],
            ['Job', own.job],
            ...(job ? ([['Day for the repair', printDay(job.planned_for)]] as const) : []),
            ...(own.joined_to ? ([['Joined to', own.joined_to]] as const) : []),
          ]
        : [],
      sentences: mode === 'joined' ? ['One leak with two reports'] : [],
      buttons: [
        'New report',
        ...(mode === 'new' ? ['Save report'] : []),
        ...(own ? ['Find near here', 'Send message'] : []),
        ...(mode === 'near' ? ['Join'] : []),
      ],
      tables: [
        ...(mode === 'near'
          ? [{ title: 'Reports within 100 m', headings: ['Report', 'How bad'], rows: near.map((row) => [row.number, row.how_bad]) }]
          : []),
        ...(own || mode === 'new'
          ? []
          : [
              await listRecords(desk, 'report', 'Newest reports', {
                Report: (row) => row.number,
                Place: (row) => row.place,
                'How bad': (row) => row.how_bad,
              }),
            ]),
      ],
    };
  },
  change: { 'Report number': takeInHand('report', 'Report number') },
  press: {
    'New report': beginNew,
    'Save report': async (desk) => {
      const { values, records } = desk;
      const place = values['Place']?.trim() ?? '';
      if (place === '') return refuse(desk, 'Where is the leak?');
      if (!values['How bad']) return refuse(desk, 'Pick how bad it is.');
      const made = await records.create('report', { place, how_bad: values['How bad'] });
      Object.assign(desk, { record: made.number, mode: '' });
      values['Report number'] = made.number;
      say(desk, 'Report saved');
    },
    'Find near here': (desk) => void (desk.mode = 'near'),
    Join: async (desk) => {
      const own = await getInHand(desk, 'report');
      if (!own) return;
      const other = (await desk.records.list('report', { place: own.place })).find(({ number }) => number !== own.number);
      const joined = other ?? (await desk.records.create('report', { place: own.place, how_bad: own.how_bad }));
      await desk.records.change('report', own.number, { joined_to: joined.number });
      desk.mode = 'joined';
    },
    'Send message': async (desk) => {
      const own = await getInHand(desk, 'report');
      if (!own) return;
      if (own.job === '') return refuse(desk, 'There is no day for the repair yet.');
      await desk.records.change('report', own.number, { message: 'sent' });
      say(desk, 'Message sent');
    },
  },
};
