import type { Role } from '@kindred-baton/core/programmes/roles';

/** Invented people and teams of Brindlemere Water Trust. */
export interface DemoTeam {
  readonly name: string;
  readonly colour: string;
  readonly hoursPerDay: number;
}

export const DEMO_TEAMS: readonly DemoTeam[] = [
  { name: 'Customer desk', colour: '#4C6FA5', hoursPerDay: 2 },
  { name: 'Field crews', colour: '#6B7F3A', hoursPerDay: 2 },
  { name: 'Metering', colour: '#2F7F86', hoursPerDay: 2 },
  { name: 'Billing', colour: '#8A5A83', hoursPerDay: 1 },
  { name: 'Stores', colour: '#9A6B3F', hoursPerDay: 2 },
  { name: 'Finance', colour: '#5C6470', hoursPerDay: 2 },
];

export interface DemoPerson {
  readonly name: string;
  readonly roles: readonly Role[];
  readonly team?: string;
}

export const DEMO_PEOPLE: readonly DemoPerson[] = [
  { name: 'Lea Marsh', roles: ['lead', 'administrator'] },
  { name: 'Edda Quill', roles: ['author'] },
  { name: 'Ravi Thorne', roles: ['author'] },
  { name: 'Ines Varga', roles: ['tester'], team: 'Customer desk' },
  { name: 'Bram Tolley', roles: ['tester'], team: 'Customer desk' },
  { name: 'Noor Castell', roles: ['tester'], team: 'Customer desk' },
  { name: 'Tomas Orley', roles: ['tester'], team: 'Field crews' },
  { name: 'Gil Hansard', roles: ['tester'], team: 'Field crews' },
  { name: 'Odile Brack', roles: ['tester'], team: 'Field crews' },
  { name: 'Jory Lind', roles: ['tester'], team: 'Metering' },
  { name: 'Mira Stokes', roles: ['tester'], team: 'Metering' },
  { name: 'Karim Bol', roles: ['tester', 'owner'], team: 'Billing' },
  { name: 'Una Petrel', roles: ['tester'], team: 'Billing' },
  { name: 'Pell Okoro', roles: ['tester'], team: 'Stores' },
  { name: 'Wanda Rusk', roles: ['tester'], team: 'Stores' },
  { name: 'Sena Adeyo', roles: ['tester'], team: 'Finance' },
  { name: 'Ivo Lamb', roles: ['tester'], team: 'Finance' },
  { name: 'Greta Holm', roles: ['owner'] },
  { name: 'Anselm Roy', roles: ['owner'] },
  { name: 'Cora Vane', roles: ['observer'] },
];

/** Who is away in the open cycle, in working days from today on. */
export const DEMO_ABSENCE = { person: 'Una Petrel', from: 1, to: 3, note: 'Month’s end' } as const;

/** Who owns which stream, for its sign-off. */
export const STREAM_OWNERS: Readonly<Record<string, string>> = {
  NS: 'Greta Holm',
  LR: 'Anselm Roy',
  RB: 'Karim Bol',
  MI: 'Anselm Roy',
  PU: 'Greta Holm',
};

export const DEMO_APPLICATIONS = ['Customer', 'Works', 'Metering', 'Billing', 'Stores', 'Ledger'] as const;

export function toEmail(name: string): string {
  return `${name.toLowerCase().replace(/[^a-z]+/g, '.')}@brindlemere.example`;
}
