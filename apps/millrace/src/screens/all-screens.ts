import type { ApplicationName, Screen } from '../kit/screen.ts';
import { BILL_RUNS_SCREEN } from './billing/bill-runs.ts';
import { BILLS_SCREEN } from './billing/bills.ts';
import { DAMAGE_SCREEN } from './billing/damage.ts';
import { QUOTES_SCREEN } from './billing/quotes.ts';
import { ACCOUNTS_SCREEN } from './customer/accounts.ts';
import { APPLICATIONS_SCREEN } from './customer/applications.ts';
import { CUSTOMER_BILLS_SCREEN } from './customer/customer-bills.ts';
import { NOTICES_SCREEN } from './customer/notices.ts';
import { REPORTS_SCREEN } from './customer/reports.ts';
import { BUDGETS_SCREEN } from './ledger/budgets.ts';
import { INVOICES_SCREEN } from './ledger/invoices.ts';
import { PAYMENTS_SCREEN } from './ledger/payments.ts';
import { POSTINGS_SCREEN } from './ledger/postings.ts';
import { RECEIPTS_SCREEN } from './ledger/receipts.ts';
import { REMINDERS_SCREEN } from './ledger/reminders.ts';
import { SETTLEMENTS_SCREEN } from './ledger/settlements.ts';
import { METERS_SCREEN } from './metering/meters.ts';
import { ODD_READINGS_SCREEN } from './metering/odd-readings.ts';
import { PLANT_METERS_SCREEN } from './metering/plant-meters.ts';
import { READINGS_SCREEN } from './metering/readings.ts';
import { ROUNDS_SCREEN } from './metering/rounds.ts';
import { DELIVERIES_SCREEN } from './stores/deliveries.ts';
import { ISSUES_SCREEN } from './stores/issues.ts';
import { ORDERS_SCREEN } from './stores/orders.ts';
import { REQUISITIONS_SCREEN } from './stores/requisitions.ts';
import { RESERVATIONS_SCREEN } from './stores/reservations.ts';
import { SHELVES_SCREEN } from './stores/shelves.ts';
import { STORES_WORK_ORDERS_SCREEN } from './stores/stores-work-orders.ts';
import { DISPATCH_SCREEN } from './works/dispatch.ts';
import { JOBS_SCREEN } from './works/jobs.ts';
import { PERMITS_SCREEN } from './works/permits.ts';
import { PLANS_SCREEN } from './works/plans.ts';
import { SAMPLES_SCREEN } from './works/samples.ts';
import { SURVEYS_SCREEN } from './works/surveys.ts';
import { TRIAGE_SCREEN } from './works/triage.ts';
import { WORK_ORDERS_SCREEN } from './works/work-orders.ts';

/** Every screen of the suite, in the order of its menus. Adding one: a file, and a line here. */
export const SCREENS: readonly Screen[] = [
  ...[APPLICATIONS_SCREEN, REPORTS_SCREEN, NOTICES_SCREEN, ACCOUNTS_SCREEN, CUSTOMER_BILLS_SCREEN],
  ...[SURVEYS_SCREEN, TRIAGE_SCREEN, PERMITS_SCREEN, DISPATCH_SCREEN, JOBS_SCREEN, SAMPLES_SCREEN, PLANS_SCREEN, WORK_ORDERS_SCREEN],
  ...[METERS_SCREEN, ROUNDS_SCREEN, READINGS_SCREEN, ODD_READINGS_SCREEN, PLANT_METERS_SCREEN],
  ...[QUOTES_SCREEN, BILLS_SCREEN, BILL_RUNS_SCREEN, DAMAGE_SCREEN],
  ...[ISSUES_SCREEN, RESERVATIONS_SCREEN, REQUISITIONS_SCREEN, ORDERS_SCREEN, DELIVERIES_SCREEN, SHELVES_SCREEN, STORES_WORK_ORDERS_SCREEN],
  ...[RECEIPTS_SCREEN, POSTINGS_SCREEN, PAYMENTS_SCREEN, REMINDERS_SCREEN, BUDGETS_SCREEN, INVOICES_SCREEN, SETTLEMENTS_SCREEN],
];

export const toSlug = (name: string): string => name.toLowerCase().replace(/[^a-z0-9]+/g, '-');

export const listScreens = (application: ApplicationName): readonly Screen[] =>
  SCREENS.filter((screen) => screen.application === application);

export const findScreen = (application: string, slug: string): Screen | undefined =>
  SCREENS.find((screen) => toSlug(screen.application) === application && toSlug(screen.name) === slug);
