import type { Pool } from 'pg';
import { DISTRICTS } from './districts.ts';
import { letReaderIn } from './reader.ts';
import { laySchema, openRecords } from './records.ts';

const PLANTS = ['Pump P-1 North weir', 'Pump P-2 North weir', 'Pump P-7 Harbour', 'Pump P-9 Upper fen', 'Blower B-3'];
/** What the store holds, and what a piece costs in cents. */
const MATERIALS: Readonly<Record<string, number>> = {
  ...{
    Chlorine: 4_210,
    'Pipe clamp 100': 3_150,
    'Coupling 50': 1_240,
    'Meter box': 5_890,
    'Valve 80': 14_275,
    'Gasket set': 830,
    Meter: 6_400,
  },
};
const STOCK = 400;
const HOUSEHOLDS = ['Tallis', 'Dray', 'Sund', 'Avery', 'Hollin', 'Fenn', 'Josse', 'Wicken'];
const FIRST_ACCOUNT = 900_101;

/** What an environment has before anybody does anything: plants, materials, and the households of its districts. Laid once. */
export async function layBase(pool: Pool, schema: string): Promise<void> {
  await laySchema(pool, schema);
  await letReaderIn(pool, schema);
  const records = openRecords(pool, schema);
  if ((await records.list('plant', {}, 1)).length > 0) return;
  for (const name of PLANTS) await records.create('plant', { name, state: 'in service' });
  for (const [name, cents] of Object.entries(MATERIALS)) await records.create('material', { name, stock: STOCK, price: cents / 100 });
  let number = FIRST_ACCOUNT;
  for (const [district, { tariff, uses }] of Object.entries(DISTRICTS))
    for (const place of uses.keys()) {
      const customer = `${HOUSEHOLDS[(place * 3 + number) % HOUSEHOLDS.length]}, ${district}`;
      await records.create('account', { customer, district, tariff, state: 'open', reading: 1_000 + place * 137 }, `AC-${number}`);
      number += 1;
    }
}
