import type { DataRow } from '@kindred-baton/core/tests/version';

/** Data rows that the demo's tests have of their own, to be tried without a scenario. */
export const TEST_ROWS: Readonly<Record<string, readonly DataRow[]>> = {
  'BIL-01': [
    { name: 'Household, short pipe', values: { 'Customer band': 'A', 'Charge expected': '240.00' } },
    { name: 'Small business', values: { 'Customer band': 'B', 'Charge expected': '512.50' } },
    { name: 'Farm, longest pipe', as: 'billing lead', values: { 'Customer band': 'C', 'Charge expected': '5865.00' } },
  ],
};
