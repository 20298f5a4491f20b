import type { Faults } from '../faults.ts';
import type { Records } from '../data/records.ts';
import type { KindName, Row } from '../data/kinds.ts';
import type { Release } from '../releases.ts';
import type { User } from '../users.ts';

export const APPLICATIONS = ['Customer', 'Works', 'Metering', 'Billing', 'Stores', 'Ledger'] as const;
export type ApplicationName = (typeof APPLICATIONS)[number];

/** A field of a form, by the label that it has. */
export interface Field {
  readonly label: string;
  readonly kind: 'text' | 'day' | 'list' | 'boxes';
  readonly options?: readonly string[];
  /** The block of the form in which it stands; none: the first. */
  readonly block?: string;
  readonly isFixed?: boolean;
  /** Whether the suite answers as soon as it is left. */
  readonly isLookedUp?: boolean;
}

export interface Table {
  readonly title: string;
  readonly headings: readonly string[];
  readonly rows: readonly (readonly string[])[];
  /** The column whose cells can be typed into, and under which name each goes out: that of its row’s first cell. */
  readonly editable?: string;
}

/** What stands on a screen, whatever generation draws it. */
export interface View {
  readonly fields: readonly Field[];
  /** Label and value, to be read. */
  readonly shown?: readonly (readonly [string, string])[];
  readonly sentences?: readonly string[];
  readonly buttons: readonly string[];
  readonly tables?: readonly Table[];
  readonly dialog?: { readonly title: string; readonly fields: readonly Field[]; readonly buttons: readonly string[] };
  /** A page of its own within the page. */
  readonly frame?: { readonly title: string; readonly address: string };
  readonly file?: { readonly name: string; readonly address: string };
  /** A value that comes after a while: it is asked for again. */
  readonly isComing?: boolean;
}

/** One person's work at one screen: what is typed, the record in hand, what the suite said. Handlers change it; then it is drawn. */
export interface Desk {
  readonly values: Record<string, string>;
  readonly records: Records;
  readonly faults: Faults;
  readonly user: User;
  readonly environment: string;
  readonly release: Release;
  /** The record in hand by its number; `` for none. */
  record: string;
  /** `new` while an empty form is filled in; else what the screen says of itself. */
  mode: string;
  message: string;
  isRefused: boolean;
}

type Handler = (desk: Desk) => Promise<void> | void;

export interface Screen {
  readonly application: ApplicationName;
  readonly name: string;
  /** Older pages are tables, and each change is a new page; newer ones draw themselves in the browser. */
  readonly look: 'older' | 'newer';
  /** The release that rebuilt an older page. */
  readonly rebuiltIn?: Release;
  readonly draw: (desk: Desk) => Promise<View> | View;
  readonly change?: Readonly<Record<string, Handler>>;
  readonly press?: Readonly<Record<string, Handler>>;
}

export function say(desk: Desk, message: string): void {
  desk.message = message;
  desk.isRefused = false;
}
export function refuse(desk: Desk, message: string): void {
  desk.message = message;
  desk.isRefused = true;
}

/** The record whose number is typed in a field; says so where there is none, and then none is in hand. */
export async function lookUp<Name extends KindName>(desk: Desk, kind: Name, label: string): Promise<Row<Name> | undefined> {
  const typed = desk.values[label]?.trim() ?? '';
  const found = typed === '' ? undefined : await desk.records.find(kind, typed);
  if (!found && typed !== '') refuse(desk, `There is no ${label.toLowerCase()} ${typed}.`);
  return found;
}

/** Takes the record of a field into the hand. */
export const takeInHand =
  (kind: KindName, label: string, then?: (desk: Desk) => Promise<void> | void): Handler =>
  async (desk) => {
    const found = await lookUp(desk, kind, label);
    desk.record = found?.number ?? '';
    desk.mode = '';
    if (found) await then?.(desk);
  };

/** The record in hand; handlers that need one are not reached without. */
export async function getInHand<Name extends KindName>(desk: Desk, kind: Name): Promise<Row<Name> | undefined> {
  const found = desk.record === '' ? undefined : await desk.records.find(kind, desk.record);
  if (!found) refuse(desk, 'Find a record first.');
  return found;
}

export const toOptions = (...options: readonly string[]): readonly string[] => ['', ...options];

/** A list under a screen: its newest records, with these columns. */
export async function listRecords<Name extends KindName>(
  { records }: Desk,
  kind: Name,
  title: string,
  columns: Readonly<Record<string, (row: Row<Name>) => string>>,
): Promise<Table> {
  const rows = await records.list(kind);
  return { title, headings: Object.keys(columns), rows: rows.map((row) => Object.values(columns).map((read) => read(row))) };
}

/** Clears all that is typed, for an empty form. */
export function beginNew(desk: Desk): void {
  Object.assign(desk, { mode: 'new', record: '' });
  for (const label of Object.keys(desk.values)) desk.values[label] = '';
}
