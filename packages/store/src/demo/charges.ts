/** Brindlemere's connection charge: by band for up to 10 m of pipe, then for each further metre. In whole cents. */
const BANDS = { A: { base: 24_000, metre: 2_800 }, B: { base: 31_000, metre: 4_500 }, C: { base: 42_000, metre: 4_950 } } as const;
export type Band = keyof typeof BANDS;

const FREE_METRES = 10;

export function getConnectionCents(band: Band, metres: number): number {
  const { base, metre } = BANDS[band];
  return base + Math.round(Math.max(0, metres - FREE_METRES) * metre);
}

export function formatCents(cents: number): string {
  return (cents / 100).toFixed(2);
}

/** What the first household of a district uses between two readings, and by which tariff it pays. */
const DISTRICTS = {
  'North bank': { tariff: 'Household', cubicMetres: 38 },
  'Old town': { tariff: 'Trade', cubicMetres: 61 },
  Harbour: { tariff: 'Farm', cubicMetres: 95 },
  'Upper fen': { tariff: 'Household', cubicMetres: 24 },
  'Mill quarter': { tariff: 'Trade', cubicMetres: 52 },
  'East hill': { tariff: 'Farm', cubicMetres: 118 },
} as const;
export type District = keyof typeof DISTRICTS;
export const DISTRICT_NAMES = Object.keys(DISTRICTS) as readonly District[];

const TARIFFS = {
  Household: { cubicMetre: 210, standing: 1_200 },
  Trade: { cubicMetre: 265, standing: 1_800 },
  Farm: { cubicMetre: 145, standing: 1_500 },
} as const;

/** The tariff and the sum, in cents, of the first bill of a district's run. */
export function getFirstBill(district: District): { readonly tariff: string; readonly cents: number } {
  const { tariff, cubicMetres } = DISTRICTS[district];
  const { cubicMetre, standing } = TARIFFS[tariff];
  return { tariff, cents: cubicMetres * cubicMetre + standing };
}

/** What a piece costs, in cents. */
const PRICES = {
  Chlorine: 4_210,
  'Pipe clamp 100': 3_150,
  'Coupling 50': 1_240,
  'Meter box': 5_890,
  'Valve 80': 14_275,
  'Gasket set': 830,
} as const;
export type Material = keyof typeof PRICES;
export const MATERIAL_NAMES = Object.keys(PRICES) as readonly Material[];

export const getPieceCents = (material: Material): number => PRICES[material];
