import type { GroupColumn, TurnColumn, TurnSort } from '@kindred-baton/core/turns/turn-columns';
import { GROUP_COLUMNS, TURN_COLUMNS, TURN_SORTS, USUAL_COLUMNS } from '@kindred-baton/core/turns/turn-columns';

/** How the address wants a list of turns to be shown. */
export interface ListQuery {
  readonly sort: TurnSort | null;
  readonly group: GroupColumn | null;
  readonly columns: readonly TurnColumn[];
}

export function readListQuery(get: (name: string) => string | null): ListQuery {
  const asked = get('columns')?.split(',');
  const columns = TURN_COLUMNS.filter((column) => asked?.includes(column));
  return {
    sort: TURN_SORTS.find((sort) => sort === get('sort')) ?? null,
    group: GROUP_COLUMNS.find((column) => column === get('group')) ?? null,
    columns: columns.length > 0 ? columns : USUAL_COLUMNS,
  };
}
