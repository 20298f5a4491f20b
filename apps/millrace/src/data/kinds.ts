/** A column of a record: text, an amount of money, a number, a day. */
export type Column = 'text' | 'money' | 'number' | 'day';

interface Kind {
  readonly table: string;
  /** The number that the suite gives: 9 is a digit; all else stands for itself. */
  readonly pattern: string;
  readonly columns: Readonly<Record<string, Column>>;
}

/** Every kind of record of the suite, with its table. Each has a number of its own and the moment at which it was made. */
export const KINDS = {
  application: {
    ...{ table: 'applications', pattern: 'AP-99999' },
    columns: { customer: 'text', band: 'text', wanted_by: 'day', address: 'text', state: 'text', reason: 'text', earlier_day: 'day' },
  },
  survey: { table: 'surveys', pattern: 'SV-99999', columns: { application: 'text', length: 'number' } },
  quote: {
    ...{ table: 'quotes', pattern: 'QT-99999' },
    columns: {
      ...{ survey: 'text', application: 'text', band: 'text', length: 'number', discount: 'number', charge: 'money', deposit: 'money' },
      ...{ valid_until: 'day', state: 'text', letter: 'text' },
    },
  },
  receipt: { table: 'receipts', pattern: 'RC-99999', columns: { quote: 'text', amount: 'money', state: 'text' } },
  refund: { table: 'refunds', pattern: 'RF-99999', columns: { paid_back: 'text', amount: 'money' } },
  job: {
    ...{ table: 'jobs', pattern: 'JB-99999' },
    columns: {
      ...{
        kind: 'text',
        receipt: 'text',
        report: 'text',
        customer: 'text',
        place: 'text',
        planned_for: 'day',
        urgency: 'text',
        crew: 'text',
      },
      ...{ meter: 'text', cause: 'text', hours: 'number', payer: 'text', state: 'text', warned: 'text' },
    },
  },
  meter: { table: 'meters', pattern: 'M26-999999', columns: { job: 'text', state: 'text', reading: 'number', account: 'text' } },
  account: {
    ...{ table: 'accounts', pattern: 'AC-999999' },
    columns: {
      customer: 'text',
      meter: 'text',
      district: 'text',
      tariff: 'text',
      state: 'text',
      reading: 'number',
      read_on: 'day',
      letter: 'text',
      quote: 'text',
    },
  },
  bill: {
    ...{ table: 'bills', pattern: 'BL-999999' },
    columns: {
      account: 'text',
      run: 'text',
      kind: 'text',
      tariff: 'text',
      total: 'money',
      left_to_pay: 'money',
      state: 'text',
      due_on: 'day',
    },
  },
  run: { table: 'bill_runs', pattern: 'RU-99999', columns: { batch: 'text', state: 'text', bills: 'number', total: 'money' } },
  report: {
    table: 'reports',
    pattern: 'RP-99999',
    columns: { place: 'text', how_bad: 'text', joined_to: 'text', job: 'text', message: 'text' },
  },
  permit: { table: 'permits', pattern: 'PM-9999', columns: { job: 'text', work_order: 'text', from_day: 'day', state: 'text' } },
  partsList: {
    table: 'parts_lists',
    pattern: 'PL-9999',
    columns: { job: 'text', work_order: 'text', parts: 'text', value: 'money', state: 'text' },
  },
  charge: {
    table: 'damage_charges',
    pattern: 'DC-9999',
    columns: { job: 'text', hours: 'number', parts: 'money', amount: 'money', insurer: 'text', state: 'text' },
  },
  posting: { table: 'postings', pattern: 'PO-999999', columns: { document: 'text', to_account: 'text', amount: 'money' } },
  round: { table: 'rounds', pattern: 'RB-9999', columns: { district: 'text', state: 'text', consumption: 'number', second_look: 'text' } },
  reading: {
    ...{ table: 'readings', pattern: 'RD-9999999' },
    columns: { batch: 'text', account: 'text', last: 'number', now: 'number', is_estimate: 'text' },
  },
  payment: {
    table: 'payments',
    pattern: 'PY-99999',
    columns: { document: 'text', amount: 'money', credit: 'money', state: 'text', due_on: 'day' },
  },
  reminder: { table: 'reminders', pattern: 'RM-99999', columns: { bill: 'text', step: 'number', state: 'text' } },
  requisition: { table: 'requisitions', pattern: 'RQ-9999', columns: { material: 'text', quantity: 'number', state: 'text' } },
  order: {
    ...{ table: 'orders', pattern: 'OR-99999' },
    columns: {
      requisition: 'text',
      supplier: 'text',
      material: 'text',
      quantity: 'number',
      price: 'money',
      open_quantity: 'number',
      state: 'text',
    },
  },
  delivery: { table: 'deliveries', pattern: 'DN-9999', columns: { order_number: 'text', quantity: 'number', shelved: 'text' } },
  invoice: {
    table: 'invoices',
    pattern: 'IN-99999',
    columns: { order_number: 'text', supplier: 'text', amount: 'money', delivery: 'text', state: 'text' },
  },
  plan: { table: 'upkeep_plans', pattern: 'UP-999', columns: { plant: 'text', every: 'text' } },
  workOrder: {
    ...{ table: 'work_orders', pattern: 'WO-99999' },
    columns: { plan: 'text', plant: 'text', state: 'text', cost: 'money', cost_on: 'text' },
  },
  sample: { table: 'samples', pattern: 'SM-99999', columns: { job: 'text', taken_on: 'day', result: 'text' } },
  plant: { table: 'plants', pattern: 'PN-9999', columns: { name: 'text', hours: 'number', state: 'text', next_upkeep: 'number' } },
  material: { table: 'materials', pattern: 'MA-9999', columns: { name: 'text', stock: 'number', price: 'money' } },
} as const satisfies Readonly<Record<string, Kind>>;

export type KindName = keyof typeof KINDS;
export const KIND_NAMES = Object.keys(KINDS) as readonly KindName[];

/** A record as it is read: its number, and each column as text; `` where it is empty. */
export type Row<Name extends KindName> = { readonly number: string } & { readonly [Key in keyof (typeof KINDS)[Name]['columns']]: string };
/** What a record is written with. */
export type Values<Name extends KindName> = { readonly [Key in keyof (typeof KINDS)[Name]['columns']]?: string | number };
