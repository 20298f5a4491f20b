export const VERSION_STATES = ['draft', 'agreed', 'retired'] as const;
export type VersionState = (typeof VERSION_STATES)[number];

/** Who makes a test's attempts: people, or runners. */
export const RUN_BY = ['hand', 'runner'] as const;
export type RunBy = (typeof RUN_BY)[number];

/** One set of values for a test's inputs. */
export interface DataRow {
  readonly name: string;
  /** The persona that does the steps that name none: the same steps for several personas are rows of one test. */
  readonly as?: string | undefined;
  readonly values: Readonly<Record<string, string>>;
}
