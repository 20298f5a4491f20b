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
