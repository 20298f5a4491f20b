import { pushTo } from '../../push-to.ts';
import { toNameKey } from '../../values/field.ts';
import type { WrongCell } from '../check-cells.ts';
import { findWrongCells } from '../check-cells.ts';
import type { Chain } from '../chain.ts';
import type { FindingRule } from './finding.ts';

/** Values of data rows that are not of their column's type; one finding for each column. */
export const wrongCells: FindingRule = {
  rule: 'wrong-cells',
  find: ({ chain, data }) => {
    if (!data) return [];
    const wrong = new Map<string, WrongCell[]>();
    for (const cell of findWrongCells({ columns: chain.columns, ...data })) pushTo(wrong, cell.column.name, cell);
    return [...wrong].flatMap(([name, [first, ...others]]) => {
      const leg = findTaker(chain, name);
      if (!first || !leg) return [];
      const more = others.length === 0 ? '' : ` So ${others.length === 1 ? 'is' : 'are'} ${others.length} more.`;
      return [{ weight: 'warning' as const, leg, value: name, message: `Data row “${first.row}”: ${first.message}${more}` }];
    });
  },
  findWaysOut: ({ value }, chain) => {
    const column = chain.columns.find(({ name }) => name === value);
    if (!column) return [];
    return [
      { kind: 'look', label: 'Open the data rows', look: 'data rows' },
      {
        kind: 'edit',
        label: `Let ${column.name} be any text`,
        edits: [{ kind: 'change column', column: column.name, change: { name: column.name, type: 'text', required: column.required } }],
      },
    ];
  },
};

/** The first leg that takes the column, else the first of all. */
function findTaker({ legs }: Chain, column: string): string | undefined {
  const taker = legs.find(({ needs }) =>
    needs.some(({ source }) => source.kind === 'column' && toNameKey(source.field.name) === toNameKey(column)),
  );
  return (taker ?? legs[0])?.leg.id;
}
