import type { Screen } from '../../kit/screen.ts';
import { getInHand, refuse, say, takeInHand, toOptions } from '../../kit/screen.ts';

export const PLANS_SCREEN: Screen = {
  ...{ application: 'Works', name: 'Plans', look: 'older' },
  draw: async ({ records, record, values }) => {
    const plan = record === '' ? undefined : await records.find('plan', record);
    const plants = (await records.list('plant')).map(({ name }) => name).sort();
    return {
      fields: [
        { label: 'Plan number', kind: 'text', isLookedUp: true },
        { label: 'Plant', kind: 'list', options: toOptions(...plants) },
        { label: 'Every', kind: 'text' },
        ...(values['Work order number'] ? ([{ label: 'Work order number', kind: 'text', isFixed: true }] as const) : []),
      ],
      sentences: values['Work order number'] && plan ? [`A work order for ${plan.plant}`] : [],
      buttons: ['Save plan', ...(plan ? ['Release'] : [])],
    };
  },
  change: {
    'Plan number': takeInHand('plan', 'Plan number', async (desk) => {
      const plan = await getInHand(desk, 'plan');
      Object.assign(desk.values, { Plant: plan?.plant ?? '', Every: plan?.every ?? '', 'Work order number': '' });
    }),
  },
  press: {
    'Save plan': async (desk) => {
      const { values, records } = desk;
      if (!values['Plant']) return refuse(desk, 'Pick a plant.');
      if (!/^\d+ (hours|months)$/.test(values['Every']?.trim() ?? ''))
        return refuse(desk, 'Every is so many hours or months, such as 500 hours.');
      const made = await records.create('plan', { plant: values['Plant'], every: values['Every'] ?? '' });
      desk.record = made.number;
      values['Plan number'] = made.number;
      say(desk, 'Plan saved');
    },
    Release: async (desk) => {
      const plan = await getInHand(desk, 'plan');
      if (!plan) return;
      const made = await desk.records.create('workOrder', { plan: plan.number, plant: plan.plant, state: 'released' });
      desk.values['Work order number'] = made.number;
      say(desk, 'Work order released');
    },
  },
};
