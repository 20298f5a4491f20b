import type { Screen } from '../../kit/screen.ts';
import { getInHand, refuse, say, takeInHand } from '../../kit/screen.ts';

export const SURVEYS_SCREEN: Screen = {
  ...{ application: 'Works', name: 'Surveys', look: 'older' },
  draw: async ({ records, record, mode, values }) => {
    const application = record === '' ? undefined : await records.find('application', record);
    return {
      fields: [
        { label: 'Application number', kind: 'text', isLookedUp: true },
        ...(values['Survey number'] ? ([{ label: 'Survey number', kind: 'text', isFixed: true }] as const) : []),
        ...(mode === 'measuring' || mode === 'measured' ? ([{ label: 'Pipe length', kind: 'text', block: 'Measurements' }] as const) : []),
      ],
      shown: application
        ? [
            ['Customer', application.customer],
            ['Address', application.address],
          ]
        : [],
      buttons: [...(application ? ['Begin survey'] : []), ...(mode === 'measuring' ? ['Save survey'] : [])],
    };
  },
  change: { 'Application number': takeInHand('application', 'Application number', (desk) => void (desk.values['Survey number'] = '')) },
  press: {
    'Begin survey': (desk) => void Object.assign(desk, { mode: 'measuring' }),
    'Save survey': async (desk) => {
      const application = await getInHand(desk, 'application');
      const length = (desk.values['Pipe length'] ?? '').trim();
      if (!application) return;
      if (!/^\d+(\.\d+)?$/.test(length)) return refuse(desk, 'Pipe length is a number of metres, such as 14.5.');
      const made = await desk.records.create('survey', { application: application.number, length });
      desk.values['Survey number'] = made.number;
      desk.mode = 'measured';
      say(desk, 'Survey saved');
    },
  },
};
