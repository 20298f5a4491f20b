import { checkValue } from '@kindred-baton/core/values/check-value';
import Plus from 'lucide-react/icons/plus';
import Trash2 from 'lucide-react/icons/trash-2';
import { useState } from 'react';
import type { ScenarioDetail } from '@kindred-baton/contracts/scenarios/scenario';
import type { ScenarioInHand } from './use-scenario.ts';

type Row = ScenarioDetail['rows'][number] | (Omit<ScenarioDetail['rows'][number], 'id'> & { readonly id?: undefined });

/** The scenario's data rows: one run is made of each. */
export function RowsTable({ hand, canEdit }: { readonly hand: ScenarioInHand; readonly canEdit: boolean }) {
  const { columns, rows } = hand.scenario;
  const [draft, setDraft] = useState<readonly Row[] | null>(null);
  const shown = draft ?? rows;
  if (columns.length === 0 && rows.length === 0) return null;
  const change = (index: number, next: Partial<Row>) =>
    setDraft(shown.map((row, place) => (place === index ? ({ ...row, ...next } as Row) : row)));
  const add = () => setDraft([...shown, { name: `Row ${shown.length + 1}`, values: { ...(shown.at(-1)?.values ?? {}) } }]);
  const save = async () => {
    if (draft && (await hand.changeScenario({ rows: draft.map((row) => ({ ...row })) }))) setDraft(null);
  };
  return (
    <section aria-label="Data rows" className="card mt-4">
      <div className="flex items-center justify-between px-4 py-2.5">
        <h2>Data rows</h2>
        <div className="flex gap-2">
          {draft && (
            <>
              <button type="button" className="button button-small" onClick={() => setDraft(null)}>
                Undo changes
              </button>
              <button type="button" className="button button-small button-primary" onClick={() => void save()}>
                Save rows
              </button>
            </>
          )}
          {canEdit && (
            <button type="button" className="button button-small" onClick={add}>
              <Plus size={15} aria-hidden /> Add a row
            </button>
          )}
        </div>
      </div>
      <div className="overflow-x-auto px-2 pb-1">
        <table className="grid-table">
          <thead>
            <tr>
              <th scope="col">Row</th>
              {columns.map((column) => (
                <th key={column.name} scope="col">
                  {column.name}
                </th>
              ))}
              {canEdit && (
                <th scope="col">
                  <span className="sr-only">Take out</span>
                </th>
              )}
            </tr>
          </thead>
          <tbody>
            {shown.map((row, index) => (
              <tr key={row.id ?? `new ${index}`}>
                <td>
                  {canEdit ? <CellInput label="Name of the row" value={row.name} onChange={(name) => change(index, { name })} /> : row.name}
                </td>
                {columns.map((column) => {
                  const value = row.values[column.name] ?? '';
                  const check = value === '' ? { ok: true } : checkValue(column, value);
                  return (
                    <td key={column.name}>
                      {canEdit ? (
                        <CellInput
                          label={`${column.name} of ${row.name}`}
                          value={value}
                          isWrong={!check.ok}
                          problem={'message' in check ? check.message : ''}
                          onChange={(next) => change(index, { values: { ...row.values, [column.name]: next } })}
                        />
                      ) : (
                        <span className="font-mono text-[13px]">{value}</span>
                      )}
                    </td>
                  );
                })}
                {canEdit && (
                  <td>
                    <button
                      type="button"
                      className="button button-quiet button-small"
                      aria-label={`Take out ${row.name}`}
                      onClick={() => setDraft(shown.filter((_, place) => place !== index))}
                    >
                      <Trash2 size={14} aria-hidden />
                    </button>
                  </td>
                )}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  );
}

interface CellInputProps {
  readonly label: string;
  readonly value: string;
  readonly isWrong?: boolean;
  readonly problem?: string;
  readonly onChange: (value: string) => void;
}

function CellInput({ label, value, isWrong = false, problem = '', onChange }: CellInputProps) {
  return (
    <input
      aria-label={label}
      aria-invalid={isWrong}
      title={problem}
      className={`w-full min-w-[90px] rounded-control border bg-transparent px-2 py-1 font-mono text-[13px] ${isWrong ? 'border-failed' : 'border-transparent hover:border-line focus:border-soft'}`}
      value={value}
      onChange={(event) => onChange(event.target.value)}
    />
  );
}
