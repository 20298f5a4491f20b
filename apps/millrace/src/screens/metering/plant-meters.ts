import type { Screen } from '../../kit/screen.ts';
import { refuse, say, toOptions } from '../../kit/screen.ts';

const UPKEEP_HOURS = 500;

export const PLANT_METERS_SCREEN: Screen = {
  ...{ application: 'Metering', name: 'Plant meters', look: 'newer' },
  draw: async ({ records, values }) => {
    const plants = await records.list('plant');
    const own = plants.find(({ name }) => name === values['Plant']);
    return {
      fields: [
        { label: 'Plant', kind: 'list', options: toOptions(...plants.map(({ name }) => name).sort()), isLookedUp: true },
        { label: 'Hours', kind: 'text' },
      ],
      shown:
        own && own.hours !== ''
          ? [
              ['Hours run', own.hours],
              ['Next upkeep at', `${own.next_upkeep} hours`],
            ]
          : [],
      buttons: ['Save'],
    };
  },
  change: { Plant: () => undefined },
  press: {
    Save: async (desk) => {
      const hours = desk.values['Hours']?.trim() ?? '';
      const [plant] = await desk.records.list('plant', { name: desk.values['Plant'] ?? '' });
      if (!plant) return refuse(desk, 'Pick a plant.');
      if (!/^\d+(\.\d+)?$/.test(hours)) return refuse(desk, 'Hours is a number.');
      await desk.records.change('plant', plant.number, { hours, next_upkeep: Number(hours) + UPKEEP_HOURS });
      say(desk, 'The next upkeep moves with the hours');
    },
  },
};
