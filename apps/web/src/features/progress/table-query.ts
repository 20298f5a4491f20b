import type { Counted, Part } from '@kindred-baton/core/progress/counted';
import { COUNTED, PARTS } from '@kindred-baton/core/progress/counted';
import type { FacetFilter, FacetName } from '@kindred-baton/core/progress/facet';
import { FACET_FILTERS, FACETS } from '@kindred-baton/core/progress/facet';
import type { LineSort } from '@kindred-baton/core/progress/sort-lines';
import { isSortFor, LINE_SORTS } from '@kindred-baton/core/progress/sort-lines';

/** What the address says of the table of progress. */
export interface TableQuery {
  readonly rows: FacetName;
  readonly columns: FacetName;
  readonly counted: Counted;
  readonly parts: readonly Part[];
  readonly sort: LineSort | null;
  /** Facets of which one value was chosen. */
  readonly narrowed: readonly { readonly filter: FacetFilter; readonly value: string }[];
}

/** The strip scopes, and the cycles are chosen: the rest narrows. */
const NARROWING = FACET_FILTERS.filter((filter) => filter !== 'node' && filter !== 'cycle');
export const TABLE_QUERY_NAMES = [
  ...['cycle', 'rows', 'columns', 'scope', 'fromRow', 'fromColumn', 'counted', 'parts', 'sort'],
  ...NARROWING,
];

export const HOLDS_QUERY_NAMES = ['cycle', 'scope', 'holdsOf'];

/** What a change of what the table is over takes back: its pages. */
export const FIRST_PAGE = { fromRow: null, fromColumn: null };

const pick = <Key extends string>(value: string | null, among: readonly Key[], other: Key): Key =>
  among.find((key) => key === value) ?? other;

export function readTableQuery(get: (name: string) => string | null): TableQuery {
  const asked = get('parts')?.split(',');
  const parts = asked ? PARTS.filter((part) => asked.includes(part)) : PARTS;
  const sort = LINE_SORTS.find((each) => each === get('sort')) ?? null;
  return {
    rows: pick(get('rows'), FACETS, 'process'),
    columns: pick(get('columns'), FACETS, 'team'),
    counted: pick(get('counted'), COUNTED, 'turns'),
    parts,
    sort: sort && isSortFor(sort, parts) ? sort : null,
    narrowed: NARROWING.flatMap((filter) => {
      const value = get(filter);
      return value === null ? [] : [{ filter, value }];
    }),
  };
}
