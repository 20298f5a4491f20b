import type { Band } from './charges.ts';
import { DISTRICT_NAMES, formatCents, getConnectionCents, getFirstBill, getPieceCents, MATERIAL_NAMES } from './charges.ts';

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
const PLANTS = ['Pump P-1 North weir', 'Pump P-2 North weir', 'Pump P-7 Harbour', 'Pump P-9 Upper fen', 'Blower B-3'];
const LENGTHS = [6, 14.5, 10, 32, 120, 8.5, 22];
const BAND_LIST: readonly Band[] = ['A', 'B', 'C'];

const at = <T>(list: readonly T[], index: number): T => list[index % list.length] as T;

export interface RowSeed {
  /** The row's place among all rows, so that neighbours differ. */
  readonly index: number;
  readonly names: readonly string[];
  /** How many pieces of what was ordered come and are paid for; all where it is not said. */
  readonly delivers?: number | undefined;
}

/** The values of one data row, for the columns that its scenario asks for; charges are worked out, not typed. */
export function createRowValues({ index, names, delivers }: RowSeed): Record<string, string> {
  const band = at(BAND_LIST, index);
  const length = at(LENGTHS, index);
  const district = at(DISTRICT_NAMES, index);
  const firstBill = getFirstBill(district);
  const material = at(MATERIAL_NAMES, index);
  const quantity = 10 + (index % 5) * 10;
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
    District: district,
    Tariff: firstBill.tariff,
    'Total expected': formatCents(firstBill.cents),
    Material: material,
    Quantity: String(quantity),
    'Invoice amount': formatCents(getPieceCents(material) * (delivers ?? quantity)),
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
