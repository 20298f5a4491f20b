import type { StoredTest } from './compare-tests.ts';

/** A test as it is written out: as it is stored, with what a reader wants to know. */
export interface ExportedTest extends StoredTest {
  readonly version: number;
  readonly state: string;
  /** The names on the map, from the top. */
  readonly path: readonly string[];
  /** Where its application stands, in the environment that is tested now; null: nobody has said. */
  readonly address: string | null;
}

/** The inputs of a test's rows, in the order of its needs; what only rows name stands behind. */
export function listInputs({ needs, rows }: Pick<ExportedTest, 'needs' | 'rows'>): string[] {
  return [...new Set([...needs.map(({ name }) => name), ...rows.flatMap(({ values }) => Object.keys(values))])];
}
