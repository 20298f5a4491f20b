import { addDays, today } from '../../data/days.ts';
import type { Screen } from '../../kit/screen.ts';
import { getInHand, refuse, say, takeInHand, toOptions } from '../../kit/screen.ts';

const DAYS: Readonly<Record<string, number>> = { Burst: 1, Running: 3, Drip: 7 };

export const TRIAGE_SCREEN: Screen = {
  ...{ application: 'Works', name: 'Triage', look: 'newer' },
  draw: async ({ records, record, values }) => {
    const report = record === '' ? undefined : await records.find('report', record);
    return {
      fields: [
        { label: 'Report number', kind: 'text', isLookedUp: true },
        ...(report ? ([{ label: 'Urgency', kind: 'list', options: toOptions(...Object.keys(DAYS)) }] as const) : []),
        ...(values['Job number'] ? ([{ label: 'Job number', kind: 'text', isFixed: true }] as const) : []),
      ],
      shown: report ? [['On the map', report.place]] : [],
      buttons: report ? ['Make job'] : [],
    };
  },
  change: { 'Report number': takeInHand('report', 'Report number', (desk) => void (desk.values['Job number'] = '')) },
  press: {
    'Make job': async (desk) => {
      const report = await getInHand(desk, 'report');
      const urgency = desk.values['Urgency'] ?? '';
      if (!report) return;
      if (urgency === '') return refuse(desk, 'Pick an urgency.');
      const planned = addDays(today(), DAYS[urgency] ?? 7);
      const made = await desk.records.create('job', {
        ...{ kind: 'repair', report: report.number, place: report.place, urgency, planned_for: planned, state: 'planned' },
      });
      await desk.records.change('report', report.number, { job: made.number });
      desk.values['Job number'] = made.number;
      say(desk, 'Job made');
    },
  },
};
