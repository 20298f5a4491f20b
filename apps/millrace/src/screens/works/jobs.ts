import { printDay, readDay, today } from '../../data/days.ts';
import type { Row } from '../../data/kinds.ts';
import type { Desk, Screen } from '../../kit/screen.ts';
import { beginNew, getInHand, listRecords, lookUp, refuse, say, takeInHand, toOptions } from '../../kit/screen.ts';

export const JOBS_SCREEN: Screen = {
  ...{ application: 'Works', name: 'Jobs', look: 'older' },
  draw: async (desk) => {
    const { records, record, mode, values } = desk;
    const job = record === '' ? undefined : await records.find('job', record);
    const [permit] = job ? await records.list('permit', { job: job.number }) : [];
    const meter = values['Meter serial'] ? await records.find('meter', values['Meter serial']) : undefined;
    const paid = mode === 'new' && values['Receipt number'] ? await findApplicant(desk, values['Receipt number']) : undefined;
    return {
      fields: [
        { label: 'Job number', kind: 'text', isLookedUp: true },
        ...(mode === 'new'
          ? ([
              { label: 'Receipt number', kind: 'text', isLookedUp: true },
              { label: 'Planned for', kind: 'day' },
            ] as const)
          : []),
        ...(job?.kind === 'fitting'
          ? ([
              { label: 'Meter serial', kind: 'text', isLookedUp: true },
              { label: 'First reading', kind: 'text' },
            ] as const)
          : []),
        ...(job?.kind === 'repair'
          ? ([
              { label: 'Cause', kind: 'list', options: toOptions('Age', 'Digger', 'Frost', 'Driver') },
              { label: 'Hours', kind: 'text' },
            ] as const)
          : []),
      ],
      shown: [
        ...(paid
          ? ([
              ['Customer', paid.customer],
              ['Address', paid.address],
            ] as const)
          : []),
        ...(job
          ? ([
              ['For', job.customer || job.place],
              ['Day', printDay(job.planned_for)],
              ['The job is', job.state],
              ...(permit ? ([['Permit', permit.number]] as const) : []),
            ] as const)
          : []),
        ...(meter && job ? ([['The meter is', meter.job === job.number ? `${meter.state} to this job` : meter.state]] as const) : []),
      ],
      buttons: ['New job', ...(mode === 'new' ? ['Save job'] : []), ...(job && job.state !== 'done' ? ['Finish job'] : [])],
      tables:
        job || mode === 'new'
          ? []
          : [
              await listRecords(desk, 'job', 'Newest jobs', {
                Job: (row) => row.number,
                Kind: (row) => row.kind,
                State: (row) => row.state,
              }),
            ],
    };
  },
  change: {
    'Job number': takeInHand('job', 'Job number'),
    'Receipt number': async (desk) => void (await lookUp(desk, 'receipt', 'Receipt number')),
    'Meter serial': async (desk) => void (await lookUp(desk, 'meter', 'Meter serial')),
  },
  press: { 'New job': beginNew, 'Save job': planJob, 'Finish job': finishJob },
};

async function findApplicant({ records }: Desk, receiptNumber: string): Promise<Row<'application'> | undefined> {
  const receipt = await records.find('receipt', receiptNumber);
  const quote = receipt && (await records.find('quote', receipt.quote));
  return quote && (await records.find('application', quote.application));
}

async function planJob(desk: Desk): Promise<void> {
  const { values, records } = desk;
  const receipt = await lookUp(desk, 'receipt', 'Receipt number');
  if (!receipt) return desk.isRefused ? undefined : refuse(desk, 'Receipt number is missing: a fitting is paid for first.');
  const planned = readDay(values['Planned for'] ?? '');
  if (!planned || planned < today()) return refuse(desk, 'Planned for should be a day from today on.');
  const applicant = await findApplicant(desk, receipt.number);
  const made = await records.create('job', {
    ...{ kind: 'fitting', receipt: receipt.number, planned_for: planned, state: 'planned' },
    ...{ customer: applicant?.customer ?? '', place: applicant?.address ?? '' },
  });
  Object.assign(desk, { record: made.number, mode: '' });
  values['Job number'] = made.number;
  say(desk, 'Job planned');
}

async function finishJob(desk: Desk): Promise<void> {
  const { values, records } = desk;
  const job = await getInHand(desk, 'job');
  if (!job) return;
  if (job.kind === 'fitting') {
    const meter = await lookUp(desk, 'meter', 'Meter serial');
    const reading = values['First reading']?.trim() ?? '';
    if (!meter) return desk.isRefused ? undefined : refuse(desk, 'Meter serial is missing.');
    if (meter.job !== job.number) return refuse(desk, 'This meter was not issued to this job.');
    if (!/^\d+$/.test(reading)) return refuse(desk, 'First reading is a whole number.');
    await records.change('meter', meter.number, { state: 'fitted', reading });
    await records.change('job', job.number, { state: 'done', meter: meter.number });
  } else {
    const hours = values['Hours']?.trim() ?? '';
    if (job.kind === 'repair' && !values['Cause']) return refuse(desk, 'Pick a cause.');
    if (job.kind === 'repair' && !/^\d+(\.\d+)?$/.test(hours)) return refuse(desk, 'Hours is a number, such as 3.5.');
    await records.change('job', job.number, { state: 'done', cause: values['Cause'] ?? '', hours });
  }
  say(desk, 'Job finished');
}
