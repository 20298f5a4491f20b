import { today } from '../../data/days.ts';
import type { Desk, Screen } from '../../kit/screen.ts';
import { getInHand, refuse, say, takeInHand } from '../../kit/screen.ts';

export const METERS_SCREEN: Screen = {
  ...{ application: 'Metering', name: 'Meters', look: 'older' },
  draw: async ({ records, record, mode, values }) => {
    const meter = record === '' ? undefined : await records.find('meter', record);
    return {
      fields: [
        { label: 'Meter serial', kind: 'text', isLookedUp: true },
        ...(values['Account number'] && mode === 'registered' ? ([{ label: 'Account number', kind: 'text', isFixed: true }] as const) : []),
        ...(values['Job number'] && mode === 'faulty' ? ([{ label: 'Job number', kind: 'text', isFixed: true }] as const) : []),
      ],
      shown: meter
        ? [
            ['The meter is', meter.state],
            ['Reading', meter.reading],
          ]
        : [],
      sentences: mode === 'faulty' ? ['An exchange job is made'] : [],
      buttons: meter ? ['Register', 'Report faulty'] : [],
    };
  },
  change: { 'Meter serial': takeInHand('meter', 'Meter serial') },
  press: {
    Register: register,
    'Report faulty': async (desk) => {
      const meter = await getInHand(desk, 'meter');
      if (!meter) return;
      const made = await desk.records.create('job', { kind: 'exchange', meter: meter.number, planned_for: today(), state: 'planned' });
      await desk.records.change('meter', meter.number, { state: 'faulty' });
      desk.values['Job number'] = made.number;
      desk.mode = 'faulty';
    },
  },
};

async function register(desk: Desk): Promise<void> {
  const { records, faults } = desk;
  const meter = await getInHand(desk, 'meter');
  if (!meter) return;
  if (meter.state !== 'fitted') return refuse(desk, `The meter is ${meter.state}; only a fitted one is registered.`);
  const job = await records.find('job', meter.job);
  const receipt = job?.receipt ? await records.find('receipt', job.receipt) : undefined;
  const quote = receipt && (await records.find('quote', receipt.quote));
  const made = await records.create('account', {
    ...{ customer: job?.customer ?? '', meter: meter.number, tariff: 'Household', state: 'new', reading: meter.reading },
    ...{ read_on: today(), quote: quote?.number ?? '' },
  });
  await records.change('meter', meter.number, { state: 'registered', account: made.number });
  if (faults.has('register')) return;
  desk.mode = 'registered';
  desk.values['Account number'] = made.number;
  say(desk, 'Meter registered');
}
