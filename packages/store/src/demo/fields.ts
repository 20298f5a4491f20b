import type { Field } from '@kindred-baton/core/values/field';
import { guessFieldType, toNameKey } from '@kindred-baton/core/values/field';

const code = (pattern: string, example: string) => ({ type: 'code', pattern, example }) as const;
const choice = (...choices: string[]) => ({ type: 'choice', choices, example: choices[0] }) as const;
const money = (example: string) => ({ type: 'money', example }) as const;

/** The types of the values that travel between Brindlemere's teams, by name. */
const TYPES: Readonly<Record<string, Omit<Field, 'name'>>> = {
  'Application no.': code('\\AP-99999', 'AP-90341'),
  'Survey no.': code('SV-99999', 'SV-40172'),
  'Quote no.': code('QT-99999', 'QT-77120'),
  'Receipt no.': code('RC-99999', 'RC-51804'),
  'Refund no.': code('RF-99999', 'RF-20016'),
  'Job no.': code('JB-99999', 'JB-31775'),
  'Meter serial': code('M99-999999', 'M26-104417'),
  'Account no.': code('\\AC-999999', 'AC-640218'),
  'Bill no.': code('BL-999999', 'BL-800351'),
  'Connection bill no.': code('BL-999999', 'BL-800350'),
  'Report no.': code('RP-99999', 'RP-12044'),
  'Permit no.': code('PM-9999', 'PM-4471'),
  'Parts list no.': code('PL-9999', 'PL-2208'),
  'Charge no.': code('DC-9999', 'DC-1107'),
  'Posting no.': code('PO-999999', 'PO-300981'),
  'Reading batch': code('RB-9999', 'RB-0612'),
  'Payment no.': code('PY-99999', 'PY-64110'),
  'Reminder no.': code('RM-99999', 'RM-10233'),
  'Requisition no.': code('RQ-9999', 'RQ-7040'),
  'Order no.': code('OR-99999', 'OR-20988'),
  'Delivery note': code('DN-9999', 'DN-5531'),
  'Invoice no.': code('IN-99999', 'IN-43370'),
  'Plan no.': code('UP-999', 'UP-118'),
  'Work order no.': code('WO-99999', 'WO-15102'),
  'Customer band': choice('A', 'B', 'C'),
  'How bad': choice('Drip', 'Running', 'Burst'),
  Cause: choice('Age', 'Digger', 'Frost', 'Driver'),
  'Pipe length': { type: 'number', example: '14.5' },
  'Length measured': { type: 'number', example: '14.5' },
  'First reading': { type: 'whole', example: '12' },
  'Own reading': { type: 'whole', example: '348' },
  Quantity: { type: 'whole', example: '40' },
  'Crew hours': { type: 'number', example: '3.5' },
  Consumption: { type: 'number', example: '18450' },
  'Meter hours': { type: 'number', example: '4120' },
  'Hours run': { type: 'number', example: '4120' },
  'Deposit due': money('256.25'),
  'Charge expected': money('512.50'),
  'Parts value': money('184.20'),
  'Damage charge': money('412.70'),
  'Invoice amount': money('1240.00'),
  'Total expected': money('96.40'),
  'Work cost': money('655.00'),
  Discount: { type: 'number', example: '10' },
};

const BY_KEY = new Map(Object.entries(TYPES).map(([name, field]) => [toNameKey(name), field]));

export function toDemoField(name: string): Field {
  return { ...(BY_KEY.get(toNameKey(name)) ?? { type: guessFieldType(name) }), name, required: true };
}
