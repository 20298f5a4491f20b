import { printCents, workOutDamage } from '../../data/charges.ts';
import type { Desk, Screen } from '../../kit/screen.ts';
import { getInHand, lookUp, refuse, say, takeInHand } from '../../kit/screen.ts';

export const DAMAGE_SCREEN: Screen = {
  ...{ application: 'Billing', name: 'Damage', look: 'older' },
  draw: async ({ records, record, values, mode }) => {
    const job = record === '' ? undefined : await records.find('job', record);
    const charge = values['Charge number'] ? await records.find('charge', values['Charge number']) : undefined;
    const [list] = job ? await records.list('partsList', { job: job.number }) : [];
    return {
      fields: [
        { label: 'Job number', kind: 'text', isLookedUp: true },
        { label: 'Charge number', kind: 'text', isLookedUp: true },
        ...(job
          ? ([
              { label: 'Who pays', kind: 'boxes', options: ['Whoever did it', 'The trust', 'The insurer'] },
              { label: 'Insurer', kind: 'text' },
            ] as const)
          : []),
      ],
      shown: [
        ...(job
          ? ([
              ['Cause', job.cause],
              ['Hours', `${job.hours || '0'} hours`],
              ['Parts', list?.value ?? '0.00'],
              ['Pays', job.payer],
            ] as const)
          : []),
        ...(charge
          ? ([
              ['Damage charge', charge.amount],
              ['The charge is', charge.state],
            ] as const)
          : []),
      ],
      buttons: [...(job ? ['Save', 'Work out'] : []), ...(charge ? ['Waive'] : [])],
      ...(mode === 'waiving'
        ? {
            dialog: {
              title: 'A reason is asked for',
              fields: [{ label: 'Reason', kind: 'text' as const }],
              buttons: ['Waive the charge', 'Keep the charge'],
            },
          }
        : {}),
    };
  },
  change: {
    'Job number': takeInHand('job', 'Job number', (desk) => void (desk.values['Charge number'] = '')),
    'Charge number': async (desk) => void (await lookUp(desk, 'charge', 'Charge number')),
  },
  press: {
    Save: async (desk) => {
      const job = await getInHand(desk, 'job');
      const payer = desk.values['Who pays'] ?? '';
      if (!job) return;
      if (payer === '') return refuse(desk, 'Pick who pays.');
      await desk.records.change('job', job.number, { payer });
      say(desk, 'Saved');
    },
    'Work out': workOut,
    Waive: (desk) => void (desk.mode = 'waiving'),
    'Keep the charge': (desk) => void (desk.mode = ''),
    'Waive the charge': async (desk) => {
      const charge = await lookUp(desk, 'charge', 'Charge number');
      if (!charge) return;
      if (!desk.values['Reason']?.trim()) return refuse(desk, 'A reason is missing.');
      await desk.records.change('charge', charge.number, { state: 'waived' });
      desk.mode = '';
      say(desk, 'Charge waived');
    },
  },
};

async function workOut(desk: Desk): Promise<void> {
  const { records, faults, values } = desk;
  const job = await getInHand(desk, 'job');
  if (!job) return;
  if (!desk.user.mayPrice) return refuse(desk, `${desk.user.name}s may not set a price.`);
  const [list] = await records.list('partsList', { job: job.number });
  const hours = faults.has('hours') ? Math.floor(Number(job.hours)) : Number(job.hours);
  const parts = Math.round(Number(list?.value ?? 0) * 100);
  const cents = workOutDamage(hours, parts);
  const made = await records.create('charge', {
    ...{ job: job.number, hours, parts: parts / 100, amount: cents / 100, insurer: values['Insurer'] ?? '', state: 'open' },
  });
  values['Charge number'] = made.number;
  say(desk, `Hours and parts added up: ${hours} hours and parts of ${printCents(parts)}`);
}
