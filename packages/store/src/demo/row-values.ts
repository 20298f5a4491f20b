import type { Band } from './charges.ts';
import { formatCents, getConnectionCents } from './charges.ts';

const CUSTOMERS = [
  'Orla Fenn Ceramics',
  'Tallis Bakery',
  'Mr and Mrs Dray',
  'Hollin Farm',
  'Wicken Close 4',
  'Petra Sund',
  'Larkfield School',
  'Nils Avery',
  'Bluebell Nursery',
  'Moor End Dairy',
  'Quay Lane 12',
  'Josse & Daughters',
];
const PLACES = ['Mill Lane', 'Harbour Row', 'Priory Hill', 'Station Yard', 'Cooper Street', 'The Green', 'Weir Bank'];
const DISTRICTS = ['North bank', 'Old town', 'Harbour', 'Upper fen', 'Mill quarter', 'East hill'];
const MATERIALS = ['Chlorine', 'Pipe clamp 100', 'Coupling 50', 'Meter box', 'Valve 80', 'Gasket set'];
const PLANTS = ['Pump P-1 North weir', 'Pump P-2 North weir', 'Pump P-7 Harbour', 'Pump P-9 Upper fen', 'Blower B-3'];
const LENGTHS = [6, 14.5, 10, 32, 120, 8.5, 22];
const BAND_LIST: readonly Band[] = ['A', 'B', 'C'];

const at = <T>(list: readonly T[], index: number): T => list[index % list.length] as T;

export interface RowSeed {
  /** The row's place among all rows, so that neighbours differ. */
  readonly index: number;
  readonly names: readonly string[];
}

/** The values of one data row, for the columns that its scenario asks for; charges are worked out, not typed. */
export function createRowValues({ index, names }: RowSeed): Record<string, string> {
  const band = at(BAND_LIST, index);
  const length = at(LENGTHS, index);
  const all: Readonly<Record<string, string>> = {
    Customer: at(CUSTOMERS, index),
    'Customer band': band,
    'Length measured': String(length),
    'Charge expected': formatCents(getConnectionCents(band, length)),
    'First reading': String(3 + ((index * 7) % 40)),
    Discount: String(5 + (index % 4) * 5),
    Place: at(PLACES, index),
    'How bad': at(['Drip', 'Running', 'Burst'], index),
    Cause: at(['Age', 'Digger', 'Frost', 'Driver'], index),
    'Crew hours': String(1.5 + (index % 6) * 0.5),
    District: at(DISTRICTS, index),
    Tariff: at(['Household', 'Trade', 'Farm'], index),
    'Total expected': formatCents(4_000 + ((index * 1_337) % 22_000)),
    Material: at(MATERIALS, index),
    Quantity: String(10 + (index % 5) * 10),
    'Invoice amount': formatCents(18_000 + ((index * 4_421) % 240_000)),
    Plant: at(PLANTS, index),
    Interval: at(['500 hours', '1000 hours', '3 months'], index),
    'Hours run': String(1_200 + ((index * 311) % 6_000)),
  };
  return Object.fromEntries(names.map((name) => [name, all[name] ?? '']));
}

/** A name that tells a row apart at a glance. */
export function nameRow(values: Readonly<Record<string, string>>, position: number): string {
  const lead = values['Customer'] ?? values['Place'] ?? values['District'] ?? values['Material'] ?? values['Plant'];
  const band = values['Customer band'];
  return lead ? `${lead}${band ? `, band ${band}` : ''}` : `Row ${position + 1}`;
}
