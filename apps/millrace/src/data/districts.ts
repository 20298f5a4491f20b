/** Households of a district are read in this order; each uses the same from round to round, so that bills can be foretold. */
interface District {
  readonly tariff: 'Household' | 'Trade' | 'Farm';
  readonly uses: readonly number[];
}

export const DISTRICTS: Readonly<Record<string, District>> = {
  'North bank': { tariff: 'Household', uses: [38, 41, 29, 52, 140, 33] },
  'Old town': { tariff: 'Trade', uses: [61, 87, 44, 73, 260, 58] },
  Harbour: { tariff: 'Farm', uses: [95, 120, 80, 64, 330, 71] },
  'Upper fen': { tariff: 'Household', uses: [24, 37, 45, 31, 125, 40] },
  'Mill quarter': { tariff: 'Trade', uses: [52, 66, 49, 81, 230, 77] },
  'East hill': { tariff: 'Farm', uses: [118, 93, 105, 88, 410, 99] },
};

/** What a household used last time, to tell an odd reading by. */
export const usedBefore = (use: number): number => (use > 100 ? Math.round(use / 4) : use);
/** The household whose reading does not come by itself. */
export const MISSING_HOUSEHOLD = 3;
