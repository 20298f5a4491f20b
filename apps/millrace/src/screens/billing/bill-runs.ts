import { workOutBill } from '../../data/charges.ts';
import { addDays, today } from '../../data/days.ts';
import type { Desk, Screen } from '../../kit/screen.ts';
import { beginNew, listRecords, lookUp, refuse, say } from '../../kit/screen.ts';

export const BILL_RUNS_SCREEN: Screen = {
  ...{ application: 'Billing', name: 'Bill runs', look: 'newer' },
  draw: async (desk) => {
    const { records, mode, values, environment } = desk;
    const batch = values['Batch'] ? await records.find('round', values['Batch']) : undefined;
    const bill = values['Bill number'] ? await records.find('bill', values['Bill number']) : undefined;
    const run = bill?.run ? await records.find('run', bill.run) : undefined;
    return {
      fields: [
        { label: 'Bill number', kind: 'text', isLookedUp: true },
        ...(mode === '' ? [] : ([{ label: 'Batch', kind: 'text', isLookedUp: true }] as const)),
      ],
      shown: [
        ...(batch
          ? ([
              ['Consumption', batch.consumption],
              ['District', batch.district],
            ] as const)
          : []),
        ...(mode === 'over' ? ([['First bill number', values['first bill'] ?? '']] as const) : []),
        ...(run ? ([['Bills of the run', run.bills]] as const) : []),
        ...(mode === 'printed' && run ? ([['Pages', run.bills]] as const) : []),
      ],
      sentences: mode === 'over' ? ['Run over'] : [],
      buttons: ['New run', ...(mode === 'new' ? ['Start'] : []), ...(run ? ['Make print file'] : [])],
      ...(mode === 'printed' && run ? { file: { name: `${run.number}.txt`, address: `/${environment}/files/run/${run.number}.txt` } } : {}),
      tables:
        mode === '' && !bill
          ? [
              await listRecords(desk, 'run', 'Newest runs', {
                Run: (row) => row.number,
                Round: (row) => row.batch,
                Bills: (row) => row.bills,
              }),
            ]
          : [],
    };
  },
  change: {
    Batch: async (desk) => void (await lookUp(desk, 'round', 'Batch')),
    'Bill number': async (desk) => void (await lookUp(desk, 'bill', 'Bill number')),
  },
  press: {
    'New run': beginNew,
    Start: startRun,
    'Make print file': (desk) => {
      desk.mode = 'printed';
      say(desk, 'As many pages as bills');
    },
  },
};

/** Bills each reading of a round by its account's tariff. */
async function startRun(desk: Desk): Promise<void> {
  const { records, faults, values } = desk;
  const batch = await lookUp(desk, 'round', 'Batch');
  if (!batch) return desk.isRefused ? undefined : refuse(desk, 'Batch is missing.');
  const readings = (await records.list('reading', { batch: batch.number })).reverse();
  if (readings.length === 0) return refuse(desk, 'This round has not been read.');
  const run = await records.create('run', { batch: batch.number, state: 'over', bills: readings.length });
  let first = '';
  let sum = 0;
  for (const reading of readings) {
    const account = await records.find('account', reading.account);
    const own = account?.tariff ?? 'Household';
    const tariff = own === 'Farm' && faults.has('tariff') ? 'Trade' : own;
    const total = workOutBill(tariff, Number(reading.now) - Number(reading.last)) / 100;
    const bill = await records.create('bill', {
      ...{ account: reading.account, run: run.number, kind: 'consumption', tariff, total, left_to_pay: total, state: 'open' },
      due_on: addDays(today(), 14),
    });
    first ||= bill.number;
    sum += total;
  }
  await records.change('run', run.number, { total: sum.toFixed(2) });
  values['first bill'] = first;
  desk.mode = 'over';
  say(desk, `${readings.length} bills made`);
}
