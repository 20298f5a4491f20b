export const VERSION_STATES = ['draft', 'agreed', 'retired'] as const;
export type VersionState = (typeof VERSION_STATES)[number];

/** One set of values for a test's inputs. */
export interface DataRow {
  readonly name: string;
  readonly values: Readonly<Record<string, string>>;
}
