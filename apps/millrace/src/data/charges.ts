import { asUnit } from '../spans.ts';

/** The rules of Brindlemere's charges, in whole cents. */
const BANDS: Readonly<Record<string, { readonly base: number; readonly metre: number }>> = {
  A: { base: 24_000, metre: 2_800 },
  B: { base: 31_000, metre: 4_500 },
  C: { base: 42_000, metre: 4_950 },
};
const FREE_METRES = 10;
const HOUR_CENTS = 6_200;

export const BAND_NAMES = Object.keys(BANDS);

export const workOutConnection = (band: string, metres: number, discount = 0): number =>
  asUnit('charges.workOutConnection', () => {
    const { base, metre } = BANDS[band] ?? { base: 0, metre: 0 };
    const whole = base + Math.round(Math.max(0, metres - FREE_METRES) * metre);
    return Math.round((whole * (100 - discount)) / 100);
  });

/** Half the charge. */
export const workOutDeposit = (chargeCents: number): number => asUnit('charges.workOutDeposit', () => Math.round(chargeCents / 2));

export const workOutDamage = (hours: number, partsCents: number): number =>
  asUnit('charges.workOutDamage', () => Math.round(hours * HOUR_CENTS) + partsCents);

const TARIFFS: Readonly<Record<string, { readonly cubicMetre: number; readonly standing: number }>> = {
  Household: { cubicMetre: 210, standing: 1_200 },
  Trade: { cubicMetre: 265, standing: 1_800 },
  Farm: { cubicMetre: 145, standing: 1_500 },
};
export const TARIFF_NAMES = Object.keys(TARIFFS);

export const workOutBill = (tariff: string, cubicMetres: number): number =>
  asUnit('charges.workOutBill', () => {
    const { cubicMetre, standing } = TARIFFS[tariff] ?? { cubicMetre: 0, standing: 0 };
    return Math.round(cubicMetres * cubicMetre) + standing;
  });

export const printCents = (cents: number): string => (cents / 100).toFixed(2);
export const readCents = (typed: string): number | undefined => {
  const plain = typed.trim().replace(/[\s,](?=\d{3}\b)/g, '');
  return /^\d+(\.\d{1,2})?$/.test(plain) ? Math.round(Number(plain) * 100) : undefined;
};
