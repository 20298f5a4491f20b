import { DISTRICTS, MISSING_HOUSEHOLD } from '../../data/districts.ts';
import type { Row } from '../../data/kinds.ts';
import type { Desk, Screen } from '../../kit/screen.ts';
import { getInHand, refuse, say, takeInHand } from '../../kit/screen.ts';

export const READINGS_SCREEN: Screen = {
  ...{ application: 'Metering', name: 'Readings', look: 'older', rebuiltIn: '4.2' },
  draw: async ({ records, record, mode }) => {
    const round = record === '' ? undefined : await records.find('round', record);
    const readings = round ? (await records.list('reading', { batch: round.number })).reverse() : [];
    return {
      fields: [{ label: 'Batch', kind: 'text', isLookedUp: true }],
      shown: round
        ? [
            ['District', round.district],
            ['The batch is', round.state],
            ...(readings.length > 0
              ? ([
                  ['Meters on the round', String(readings.length)],
                  ['Refused', '0'],
                  ['Consumption', String(sum(readings))],
                ] as const)
              : []),
          ]
        : [],
      sentences: mode === 'read' ? ['As many readings as meters on the round'] : [],
      buttons: round ? ['Import file', 'Estimate missing', ...(readings.length > 0 ? ['Accept'] : [])] : [],
      tables:
        readings.length > 0
          ? [
              {
                title: 'Readings of the round',
                headings: ['Account', 'Last', 'Now', 'Marked'],
                rows: readings.map((row) => [row.account, row.last, row.now, row.is_estimate === '' ? 'read' : 'estimate']),
                editable: 'Now',
              },
            ]
          : [],
    };
  },
  change: { Batch: takeInHand('round', 'Batch') },
  press: {
    'Import file': async (desk) => {
      await readRound(desk, undefined);
      desk.mode = 'read';
    },
    'Estimate missing': async (desk) => {
      await readRound(desk, MISSING_HOUSEHOLD);
      say(desk, 'Each estimate is marked as one');
    },
    Accept: async (desk) => {
      const round = await getInHand(desk, 'round');
      if (!round) return;
      const readings = (await desk.records.list('reading', { batch: round.number })).reverse();
      for (const reading of readings) {
        const typed = desk.values[`Now ${reading.account}`]?.trim();
        if (typed === undefined || typed === reading.now) continue;
        if (!/^\d+$/.test(typed) || Number(typed) < Number(reading.last))
          return refuse(desk, `${typed} is no reading after ${reading.last}.`);
        await desk.records.change('reading', reading.number, { now: typed });
      }
      await desk.records.change('round', round.number, {
        state: 'complete',
        consumption: sum(await desk.records.list('reading', { batch: round.number })),
      });
    },
  },
};

const sum = (readings: readonly Row<'reading'>[]) => readings.reduce((all, { now, last }) => all + Number(now) - Number(last), 0);

/** Takes the readings of a round in, once; the one that is missing is estimated. */
async function readRound(desk: Desk, missing: number | undefined): Promise<void> {
  const round = await getInHand(desk, 'round');
  if (!round) return;
  if ((await desk.records.list('reading', { batch: round.number })).length > 0) return;
  const { uses = [] } = DISTRICTS[round.district] ?? {};
  const accounts = (await desk.records.list('account', { district: round.district })).reverse();
  let consumption = 0;
  for (const [place, account] of accounts.entries()) {
    const use = uses[place] ?? 0;
    const last = Number(account.reading);
    await desk.records.create('reading', {
      ...{ batch: round.number, account: account.number, last, now: last + use, is_estimate: place === missing ? 'yes' : '' },
    });
    await desk.records.change('account', account.number, { reading: last + use });
    consumption += use;
  }
  await desk.records.change('round', round.number, { state: missing === undefined ? 'read' : 'estimated', consumption });
}
