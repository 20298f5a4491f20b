import { today } from '../../data/days.ts';
import { DISTRICTS, usedBefore } from '../../data/districts.ts';
import type { Screen } from '../../kit/screen.ts';
import { getInHand, say, takeInHand } from '../../kit/screen.ts';

const TIMES = 3;

export const ODD_READINGS_SCREEN: Screen = {
  ...{ application: 'Metering', name: 'Odd readings', look: 'older' },
  draw: async ({ records, record, mode, values }) => {
    const round = record === '' ? undefined : await records.find('round', record);
    const { uses = [] } = DISTRICTS[round?.district ?? ''] ?? {};
    const accounts = round ? (await records.list('account', { district: round.district })).reverse() : [];
    const odd = accounts.flatMap((account, place) => {
      const use = uses[place] ?? 0;
      return use > TIMES * usedBefore(use) ? [[account.number, account.customer, String(usedBefore(use)), String(use)]] : [];
    });
    return {
      fields: [{ label: 'Batch', kind: 'text', isLookedUp: true }],
      sentences: mode === 'asked' ? [`A job for the round: ${values['second look'] ?? ''}`] : [],
      buttons: round ? ['Ask for a second look'] : [],
      tables: round ? [{ title: 'Readings over three times the last', headings: ['Account', 'Holder', 'Last', 'Now'], rows: odd }] : [],
    };
  },
  change: { Batch: takeInHand('round', 'Batch') },
  press: {
    'Ask for a second look': async (desk) => {
      const round = await getInHand(desk, 'round');
      if (!round) return;
      const made = await desk.records.create('job', { kind: 'second look', place: round.district, planned_for: today(), state: 'planned' });
      await desk.records.change('round', round.number, { second_look: made.number });
      desk.values['second look'] = made.number;
      desk.mode = 'asked';
      say(desk, 'Second look asked for');
    },
  },
};
