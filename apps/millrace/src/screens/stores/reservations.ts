import { printCents } from '../../data/charges.ts';
import type { Desk, Screen } from '../../kit/screen.ts';
import { lookUp, refuse, say } from '../../kit/screen.ts';

/** What a repair takes. */
export const PARTS_FOR_REPAIR = [
  { name: 'Pipe clamp 100', pieces: 1 },
  { name: 'Coupling 50', pieces: 2 },
] as const;

export const RESERVATIONS_SCREEN: Screen = {
  ...{ application: 'Stores', name: 'Reservations', look: 'newer' },
  draw: ({ values, mode }) => ({
    fields: [
      { label: 'Job number', kind: 'text', isLookedUp: true },
      { label: 'Work order', kind: 'text', isLookedUp: true },
      ...(values['List number'] && mode === 'reserved' ? ([{ label: 'List number', kind: 'text', isFixed: true }] as const) : []),
    ],
    sentences: mode === 'proposed' ? ['A clamp and two couplings'] : [],
    buttons: ['Propose parts', 'Reserve'],
  }),
  change: {
    'Job number': async (desk) => void (await lookUp(desk, 'job', 'Job number')),
    'Work order': async (desk) => void (await lookUp(desk, 'workOrder', 'Work order')),
  },
  press: { 'Propose parts': (desk) => void (desk.mode = 'proposed'), Reserve: reserve },
};

async function reserve(desk: Desk): Promise<void> {
  const { records } = desk;
  const job = await lookUp(desk, 'job', 'Job number');
  const workOrder = await lookUp(desk, 'workOrder', 'Work order');
  if (!job && !workOrder) return desk.isRefused ? undefined : refuse(desk, 'Parts are for a job or a work order.');
  let cents = 0;
  for (const { name, pieces } of PARTS_FOR_REPAIR) {
    const [part] = await records.list('material', { name });
    cents += Math.round(Number(part?.price ?? 0) * 100) * pieces;
  }
  const made = await records.create('partsList', {
    ...{ job: job?.number ?? '', work_order: workOrder?.number ?? '', parts: 'A clamp and two couplings' },
    ...{ value: printCents(cents), state: 'reserved' },
  });
  desk.values['List number'] = made.number;
  desk.mode = 'reserved';
  say(desk, 'Parts reserved');
}
