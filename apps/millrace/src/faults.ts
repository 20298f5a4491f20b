/** Faults of the suite that can be switched on and off for an environment, each with what it does. */
export const FAULTS = {
  band: 'A quote is priced in band C, whatever was chosen.',
  discount: 'A discount of more than half is taken.',
  'discount-deposit': 'A discount may go below the deposit.',
  permit: 'The crew’s tablet does not show the permit.',
  note: 'A delivery of forty pieces or more is given the note number of the one before.',
  hours: 'The damage charge leaves half hours out.',
  tariff: 'Farms are billed at the trade tariff.',
  register: 'Registering a meter says nothing.',
  reminder: 'A reminder goes out on day 29.',
  balance: 'A posting is out by a cent.',
  settle: 'The cost of a pump at the North weir lands on the weir.',
} as const;
export type FaultName = keyof typeof FAULTS;
export const FAULT_NAMES = Object.keys(FAULTS) as readonly FaultName[];

/** Which are switched on. */
export type Faults = ReadonlySet<FaultName>;
