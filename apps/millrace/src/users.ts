import type { ApplicationName } from './kit/screen.ts';

export interface User {
  readonly code: string;
  readonly name: string;
  readonly applications: readonly ApplicationName[];
  /** Whether prices, charges and discounts may be changed. */
  readonly mayPrice: boolean;
  /** Whether what others asked for may be approved. */
  readonly mayApprove: boolean;
}

/** Whoever may sign in; all with the password of their environment. */
export const USERS: readonly User[] = [
  { code: 'DESK01', name: 'Desk clerk', applications: ['Customer'], mayPrice: false, mayApprove: false },
  { code: 'PLAN01', name: 'Crew planner', applications: ['Works', 'Stores', 'Billing'], mayPrice: false, mayApprove: false },
  { code: 'METR01', name: 'Meter reader', applications: ['Metering', 'Works'], mayPrice: false, mayApprove: false },
  { code: 'BILL01', name: 'Billing clerk', applications: ['Billing', 'Customer'], mayPrice: true, mayApprove: false },
  { code: 'BILL09', name: 'Billing lead', applications: ['Billing', 'Customer', 'Ledger'], mayPrice: true, mayApprove: true },
  { code: 'STOR01', name: 'Store keeper', applications: ['Stores', 'Works'], mayPrice: false, mayApprove: true },
  { code: 'LEDG01', name: 'Accountant', applications: ['Ledger', 'Billing', 'Stores'], mayPrice: true, mayApprove: true },
];

/** The practice password of an environment; it stands on its sign-in page. */
export const passwordOf = (environment: string): string => `practice-${environment}`;
