import type { ImportColumns } from '@kindred-baton/contracts/imports/import';
import type { ReactNode } from 'react';

interface ColumnsCardProps {
  readonly columns: ImportColumns;
  readonly fields: readonly { readonly field: string; readonly label: string }[];
  /** Which column says what. */
  readonly taken: Readonly<Record<string, number | undefined>>;
  readonly onTake: (field: string, column: number | undefined) => void;
  readonly onSheet: (sheet: string) => void;
  readonly children?: ReactNode;
}

/** How the columns of a sheet are taken: guessed from their headings, and mapped by hand where the guess is wrong. */
export function ColumnsCard({ columns, fields, taken, onTake, onSheet, children }: ColumnsCardProps) {
  const used = new Map(Object.entries(taken).flatMap(([field, column]) => (column === undefined ? [] : [[column, field] as const])));
  return (
    <section className="card px-4 py-3" aria-label="Columns">
      <div className="flex flex-wrap items-end gap-x-4 gap-y-2">
        {columns.sheets.length > 1 && (
          <label className="text-[13px]">
            Sheet
            <select className="field mt-0.5" value={columns.sheet} onChange={(event) => onSheet(event.target.value)}>
              {columns.sheets.map((sheet) => (
                <option key={sheet}>{sheet}</option>
              ))}
            </select>
          </label>
        )}
        {fields.map(({ field, label }) => (
          <label key={field} className="text-[13px]">
            {label}
            <select
              className="field mt-0.5 max-w-[170px]"
              value={taken[field] ?? ''}
              onChange={(event) => onTake(field, event.target.value === '' ? undefined : Number(event.target.value))}
            >
              <option value="">not in the file</option>
              {columns.headings.map((heading, column) => (
                <option key={column} value={column}>
                  {heading || `Column ${column + 1}`}
                </option>
              ))}
            </select>
          </label>
        ))}
        {children}
      </div>
      {/* eslint-disable-next-line jsx-a11y/no-noninteractive-tabindex -- a scrolling frame takes the focus to be scrolled by keys */}
      <div className="mt-3 overflow-x-auto" tabIndex={0} role="group" aria-label="The first rows">
        <table className="grid-table text-[13px]">
          <thead>
            <tr>
              {columns.headings.map((heading, column) => (
                <th key={column} scope="col" className={used.has(column) ? 'text-ink!' : ''}>
                  {heading || `Column ${column + 1}`}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {columns.samples.map((cells, row) => (
              <tr key={row}>
                {cells.map((cell, column) => (
                  <td key={column} className={`max-w-[220px] truncate py-1! ${used.has(column) ? '' : 'text-soft'}`}>
                    {cell}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  );
}
