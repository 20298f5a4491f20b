import type { RowsQuery } from '@kindred-baton/contracts/extracts/extract';
import type { ColumnsOf, RowKind } from '@kindred-baton/core/extracts/row-kinds';
import type { SQL, SQLWrapper } from 'drizzle-orm';
import type { ReadContext } from '../operation.ts';

/** Where the rows of a kind come from. */
export interface RowSource<Kind extends RowKind = RowKind> {
  /** Each column's cell, as it is stored: how it is written depends on its type (core/extracts/row-kinds.ts). */
  readonly cells: (context: ReadContext) => Readonly<Record<ColumnsOf<Kind>, SQLWrapper>>;
  /** From where on, with its joins; `paths` is there already (place-paths.ts). */
  readonly from: SQL;
  /** What a row is known and ordered by, with the types of its parts. */
  readonly key: readonly { readonly cell: SQLWrapper; readonly type: 'uuid' | 'int' }[];
  readonly conditions: (context: ReadContext, query: RowsQuery) => Promise<readonly (SQL | undefined)[]>;
}
