import { checkCell } from '@kindred-baton/core/scenarios/check-cells';
import type { ClassSetup } from '@kindred-baton/core/rows/row-model';
import type { Field } from '@kindred-baton/core/values/field';
import { FIELD_TYPE_LABELS } from '@kindred-baton/core/values/field';
import Trash2 from 'lucide-react/icons/trash-2';
import type { ClipboardEvent, KeyboardEvent } from 'react';
import { useState } from 'react';
import { useDraft } from '../../../ui/use-draft.ts';
import { pasteCells } from './paste-cells.ts';
import type { ScenarioEditor } from '../use-scenario.ts';

interface RowsGridProps {
  readonly editor: ScenarioEditor;
  readonly onColumn: (column: Field) => void;
}

type Row = ScenarioEditor['scenario']['document']['rows'][number];

const FIRST_SHOWN = 200;
const CELL = 'w-full min-w-[90px] rounded-control border bg-transparent px-2 py-1 font-mono text-[13px]';

/** Cells as in a spreadsheet: arrows and Enter walk, typing edits, a block can be pasted. */
export function RowsGrid({ editor, onColumn }: RowsGridProps) {
  const { columns, rows } = editor.scenario.document;
  const [shown, setShown] = useState(FIRST_SHOWN);
  const names = columns.map(({ name }) => name);
  const ran = new Set<string>(editor.scenario.ranRows);
  const onPaste = (event: ClipboardEvent) => {
    const [row, column] = toCell(event.target);
    if (row === undefined || column === undefined) return;
    const text = event.clipboardData.getData('text/plain');
    const edits = pasteCells({ rows, columns: names, text, row, column, createId: () => crypto.randomUUID() });
    if (!edits) return;
    event.preventDefault();
    void editor.run(edits);
  };
  return (
    // eslint-disable-next-line jsx-a11y/no-noninteractive-tabindex -- a scrolling frame takes the focus to be scrolled by keys
    <div className="max-h-[max(300px,calc(100vh-330px))] overflow-auto px-2 pb-1" tabIndex={0} role="group" aria-label="Data rows: table">
      {/* The cells are the controls; the table hears what is pasted into them, and the keys that walk. */}
      <table className="grid-table" {...(editor.canEdit ? { onPaste, onKeyDown: walkCells } : {})}>
        <thead>
          <tr>
            <th scope="col">Row</th>
            {columns.map((column) => (
              <th key={column.name} scope="col">
                {editor.canEdit ? (
                  <button type="button" className="text-left hover:underline" title="Name, type, take out" onClick={() => onColumn(column)}>
                    {column.name} <span className="font-normal">{FIELD_TYPE_LABELS[column.type]}</span>
                  </button>
                ) : (
                  column.name
                )}
              </th>
            ))}
            {editor.canEdit && (
              <th scope="col">
                <span className="sr-only">Take out</span>
              </th>
            )}
          </tr>
        </thead>
        <tbody>
          {rows.slice(0, shown).map((row, index) => (
            <RowLine key={row.id} {...{ editor, row, index, columns }} hasRun={ran.has(row.id)} />
          ))}
        </tbody>
      </table>
      {rows.length > shown && (
        <button type="button" className="button button-small m-2" onClick={() => setShown(shown + 1_000)}>
          Show {Math.min(1_000, rows.length - shown)} more of {rows.length - shown}
        </button>
      )}
    </div>
  );
}

interface RowLineProps {
  readonly editor: ScenarioEditor;
  readonly row: Row;
  readonly index: number;
  readonly columns: readonly Field[];
  readonly hasRun: boolean;
}

function RowLine({ editor, row, index, columns, hasRun }: RowLineProps) {
  const keep = (change: { name?: string; values?: Record<string, string> }) =>
    void editor.run([{ kind: 'change row', row: row.id, ...change }]);
  if (!editor.canEdit)
    return (
      <tr>
        <td>{row.name}</td>
        {columns.map(({ name }) => (
          <td key={name} className="font-mono text-[13px]">
            {row.values[name]}
          </td>
        ))}
      </tr>
    );
  return (
    <tr>
      <td className="px-1!">
        <span className="flex items-center">
          <CellInput
            cell={`${index}:-1`}
            label={`Name of row ${index + 1}`}
            value={row.name}
            isName
            onKeep={(name) => name !== '' && keep({ name })}
          />
          {hasRun && <span className="flex-none px-1 text-[12px] text-soft">has run</span>}
        </span>
      </td>
      {columns.map((column, at) => (
        <td key={column.name} className="px-1!">
          <CellInput
            cell={`${index}:${at}`}
            label={`${column.name} of ${row.name}`}
            value={row.values[column.name] ?? ''}
            column={column}
            classes={editor.scenario.document.classes}
            onKeep={(value) => keep({ values: { [column.name]: value } })}
          />
        </td>
      ))}
      <td className="px-1!">
        <button
          type="button"
          className="button button-quiet button-small"
          aria-label={`Take out ${row.name}`}
          onClick={() => void editor.run([{ kind: 'remove row', row: row.id }])}
        >
          <Trash2 size={14} aria-hidden />
        </button>
      </td>
    </tr>
  );
}

interface CellInputProps {
  /** Row and column, to be found again by keys. */
  readonly cell: string;
  readonly label: string;
  readonly value: string;
  readonly column?: Field;
  readonly classes?: ClassSetup | null;
  readonly isName?: boolean;
  readonly onKeep: (value: string) => void;
}

function CellInput({ cell, label, value, column, classes = null, isName = false, onKeep }: CellInputProps) {
  const draft = useDraft(value, onKeep);
  const check = column ? checkCell(column, draft.value, classes) : { ok: true as const };
  return (
    <input
      data-cell={cell}
      aria-label={label}
      aria-invalid={!check.ok}
      title={check.ok ? undefined : check.message}
      className={`${CELL} ${isName ? 'font-sans! font-semibold' : ''} ${check.ok ? 'border-transparent hover:border-line focus:border-soft' : 'border-failed'}`}
      {...draft}
    />
  );
}

function toCell(target: EventTarget): (number | undefined)[] {
  return (target as HTMLElement).closest<HTMLElement>('[data-cell]')?.dataset['cell']?.split(':').map(Number) ?? [];
}

/** Enter and the upright arrows go to the cell below or above; the text in a cell keeps the other two. */
function walkCells(event: KeyboardEvent): void {
  const by =
    event.key === 'ArrowUp' || (event.key === 'Enter' && event.shiftKey) ? -1 : event.key === 'ArrowDown' || event.key === 'Enter' ? 1 : 0;
  const [row, column] = toCell(event.target);
  if (by === 0 || row === undefined || column === undefined) return;
  event.preventDefault();
  event.currentTarget.querySelector<HTMLElement>(`[data-cell="${row + by}:${column}"]`)?.focus();
}
