import { BAND_NAMES } from '../../data/charges.ts';
import { printDay, readDay, today } from '../../data/days.ts';
import type { Desk, Screen } from '../../kit/screen.ts';
import { beginNew, getInHand, listRecords, refuse, say, takeInHand, toOptions } from '../../kit/screen.ts';

const ADDRESSES = ['3 Mill Lane', '18 Harbour Row', '7 Priory Hill', '2 Station Yard', '41 Cooper Street', '5 Weir Bank'];
const REASONS = ['No main within 200 m', 'The site is not built on', 'The applicant does not own it'];

export const APPLICATIONS_SCREEN: Screen = {
  ...{ application: 'Customer', name: 'Applications', look: 'older' },
  draw: async (desk) => {
    const { records, record, mode, release } = desk;
    const own = record === '' ? undefined : await records.find('application', record);
    const isOpen = mode === 'new' || own !== undefined;
    return {
      fields: [
        { label: 'Application number', kind: 'text', isLookedUp: true },
        ...(isOpen
          ? ([
              { label: 'Customer name', kind: 'text', block: 'Applicant' },
              { label: 'Customer band', kind: 'list', options: toOptions(...BAND_NAMES), block: 'Applicant' },
              ...(release === '4.2' ? ([{ label: 'Site contact', kind: 'text', block: 'Applicant' }] as const) : []),
              { label: 'Wanted by', kind: 'day', block: 'Applicant' },
            ] as const)
          : []),
      ],
      shown: own
        ? [
            ['Applicant', own.customer],
            ['Address', own.address],
            ['State', own.state],
            ...(own.earlier_day ? ([['Wanted before', printDay(own.earlier_day)]] as const) : []),
            ...(own.reason ? ([['Reason for refusing', own.reason]] as const) : []),
          ]
        : [],
      sentences: mode === 'checked' && own ? [`${own.address} is on the main.`] : [],
      buttons: [
        'New application',
        ...(isOpen ? ['Save application'] : []),
        ...(own ? ['Check address', 'Refuse'] : []),
        ...(mode === 'checked' ? ['Confirm'] : []),
      ],
      tables: isOpen
        ? []
        : [
            await listRecords(desk, 'application', 'List of applications', {
              Number: (row) => row.number,
              Applicant: (row) => row.customer,
              Band: (row) => row.band,
              'Wanted by': (row) => printDay(row.wanted_by),
              State: (row) => row.state,
            }),
          ],
      ...(mode === 'refusing' && own
        ? {
            dialog: {
              title: 'Refuse this application?',
              fields: [{ label: 'Reason', kind: 'list' as const, options: toOptions(...REASONS) }],
              buttons: ['Refuse application', 'Do not refuse'],
            },
          }
        : {}),
    };
  },
  change: {
    'Application number': takeInHand('application', 'Application number', async (desk) => {
      const own = await getInHand(desk, 'application');
      if (!own) return;
      Object.assign(desk.values, { 'Customer name': own.customer, 'Customer band': own.band, 'Wanted by': printDay(own.wanted_by) });
    }),
  },
  press: {
    'New application': beginNew,
    'Save application': save,
    'Check address': async (desk) => {
      if (await getInHand(desk, 'application')) desk.mode = 'checked';
    },
    Confirm: async (desk) => {
      const own = await getInHand(desk, 'application');
      if (!own) return;
      await desk.records.change('application', own.number, { state: 'address confirmed' });
      desk.mode = '';
      say(desk, 'Address confirmed');
    },
    Refuse: (desk) => void (desk.mode = 'refusing'),
    'Do not refuse': (desk) => void (desk.mode = ''),
    'Refuse application': async (desk) => {
      const own = await getInHand(desk, 'application');
      const reason = desk.values['Reason'] ?? '';
      if (!own) return;
      if (reason === '') return refuse(desk, 'Pick a reason.');
      await desk.records.change('application', own.number, { state: 'refused', reason });
      desk.mode = '';
      say(desk, 'Application refused; a letter is ready');
    },
  },
};

async function save(desk: Desk): Promise<void> {
  const { values, records } = desk;
  const customer = values['Customer name']?.trim() ?? '';
  const band = values['Customer band'] ?? '';
  const wantedBy = readDay(values['Wanted by'] ?? '');
  if (customer === '') return refuse(desk, 'Customer name is missing.');
  if (band === '') return refuse(desk, 'Pick a customer band.');
  if (!wantedBy || wantedBy < today()) return refuse(desk, 'Wanted by should be a day from today on.');
  const own = desk.record === '' ? undefined : await records.find('application', desk.record);
  if (own) {
    const earlier = own.wanted_by === wantedBy ? own.earlier_day : own.wanted_by;
    await records.change('application', own.number, { customer, band, wanted_by: wantedBy, earlier_day: earlier });
    return say(desk, 'Application changed');
  }
  const address = ADDRESSES[customer.length % ADDRESSES.length] ?? '';
  const made = await records.create('application', { customer, band, wanted_by: wantedBy, address, state: 'open' });
  Object.assign(desk, { record: made.number, mode: '' });
  Object.assign(values, { 'Application number': made.number, 'Wanted by': printDay(wantedBy) });
  say(desk, 'Application saved');
}
