import { call, toAddress } from '../../client/call.ts';
import type { SaveTest } from '@kindred-baton/contracts/tests/test';
import { toNameKey } from '@kindred-baton/core/values/field';
import { countFreshValues, countUntilRepeat } from '@kindred-baton/core/values/count-fresh';
import { parseTemplate } from '@kindred-baton/core/values/template';
import Copy from 'lucide-react/icons/copy';
import FileDown from 'lucide-react/icons/file-down';
import FileUp from 'lucide-react/icons/file-up';
import Plus from 'lucide-react/icons/plus';
import Trash2 from 'lucide-react/icons/trash-2';
import type { ClipboardEvent } from 'react';
import { useId } from 'react';
import { FileButton } from '../../ui/file-button.tsx';
import { countOf } from '../../ui/format.ts';
import { useNotice } from '../../ui/notices.tsx';
import { toMessage } from '../../client/request.ts';
import { useProgramme } from '../frame/programme-context.tsx';
import { copyRow, listColumns, pasteRows } from './data-row-cells.ts';

type Rows = SaveTest['rows'];

interface DataRowsProps {
  readonly code: string;
  readonly rows: Rows;
  readonly needs: SaveTest['needs'];
  readonly personas: readonly string[];
  readonly canEdit: boolean;
  readonly onChange: (rows: Rows) => void;
}

const CELL = 'w-full min-w-[90px] rounded-control border border-transparent bg-transparent px-2 py-1 hover:border-line focus:border-soft';

/** Sets of values for the test's inputs. What differs from the first row stands out. */
export function DataRows({ code, rows, needs, personas, canEdit, onChange }: DataRowsProps) {
  const list = useId();
  const columns = listColumns(needs, rows);
  const change = (index: number, next: Rows[number]) => onChange(rows.map((row, at) => (at === index ? next : row)));
  const onPaste = (event: ClipboardEvent) => {
    const at = (event.target as HTMLElement).closest<HTMLElement>('[data-cell]')?.dataset['cell']?.split(':').map(Number);
    const pasted = at && pasteRows({ rows, columns, text: event.clipboardData.getData('text/plain'), row: at[0] ?? 0, column: at[1] ?? 0 });
    if (!pasted) return;
    event.preventDefault();
    onChange(pasted);
  };
  return (
    <section className="border-t border-line px-2 pt-2 pb-3" aria-label="Data rows">
      <div className="flex flex-wrap items-center gap-2 px-2 pb-1">
        <h2 className="mr-auto">
          Data rows <span className="font-normal text-soft">{rows.length === 0 ? 'none yet' : rows.length}</span>
        </h2>
        <RowFiles code={code} hasRows={rows.length > 0} canEdit={canEdit} onRead={(read) => onChange([...rows, ...read])} />
        {canEdit && (
          <button
            type="button"
            className="button button-small"
            onClick={() => onChange([...rows, { name: `Row ${rows.length + 1}`, values: {} }])}
          >
            <Plus size={14} aria-hidden /> Add a row
          </button>
        )}
      </div>
      {rows.length > 0 && (
        // eslint-disable-next-line jsx-a11y/no-noninteractive-tabindex -- a scrolling frame takes the focus to be scrolled by keys
        <div className="overflow-x-auto" tabIndex={0} role="group" aria-label="Data rows: table">
          {/* The cells are the controls; the table hears what is pasted into them. */}
          <table className="grid-table" {...(canEdit ? { onPaste } : {})}>
            <thead>
              <tr>
                <th scope="col">Row</th>
                <th scope="col">As</th>
                {columns.map((column) => (
                  <th key={column} scope="col">
                    {column}
                  </th>
                ))}
                {canEdit && (
                  <th scope="col">
                    <span className="sr-only">More</span>
                  </th>
                )}
              </tr>
            </thead>
            <tbody>
              {rows.map((row, index) => (
                <DataRowLine
                  key={index}
                  {...{ row, index, columns, canEdit, list }}
                  first={rows[0] ?? row}
                  onChange={(next) => change(index, next)}
                  onCopy={() => onChange([...rows.slice(0, index + 1), copyRow(row, rows), ...rows.slice(index + 1)])}
                  onRemove={() => onChange(rows.filter((_, at) => at !== index))}
                />
              ))}
            </tbody>
          </table>
          <datalist id={list}>
            {personas.map((name) => (
              <option key={name} value={name} />
            ))}
          </datalist>
        </div>
      )}
      <FreshValues rows={rows} />
    </section>
  );
}

interface DataRowLineProps {
  readonly row: Rows[number];
  readonly first: Rows[number];
  readonly index: number;
  readonly columns: readonly string[];
  readonly canEdit: boolean;
  readonly list: string;
  readonly onChange: (row: Rows[number]) => void;
  readonly onCopy: () => void;
  readonly onRemove: () => void;
}

function DataRowLine({ row, first, index, columns, canEdit, list, onChange, onCopy, onRemove }: DataRowLineProps) {
  const number = index + 1;
  const valueOf = (of: Rows[number], column: string) =>
    Object.entries(of.values).find(([name]) => toNameKey(name) === toNameKey(column))?.[1] ?? '';
  const differs = (mine: string, others: string) => (index > 0 && mine !== others ? 'bg-band font-bold' : '');
  if (!canEdit)
    return (
      <tr>
        <td className="font-semibold">{row.name}</td>
        <td className={differs(row.as ?? '', first.as ?? '')}>{row.as}</td>
        {columns.map((column) => (
          <td key={column} className={`font-mono text-[13px] ${differs(valueOf(row, column), valueOf(first, column))}`}>
            {valueOf(row, column)}
          </td>
        ))}
      </tr>
    );
  return (
    <tr>
      <td className="px-1! py-1!" data-cell={`${index}:-2`}>
        <input
          aria-label={`Row ${number}: name`}
          className={`${CELL} font-semibold`}
          value={row.name}
          onChange={(event) => onChange({ ...row, name: event.target.value })}
        />
      </td>
      <td className="px-1! py-1!" data-cell={`${index}:-1`}>
        <input
          aria-label={`Row ${number}: as`}
          list={list}
          placeholder="anybody"
          className={`${CELL} ${differs(row.as ?? '', first.as ?? '')}`}
          value={row.as ?? ''}
          onChange={(event) => onChange({ ...row, as: event.target.value || undefined })}
        />
      </td>
      {columns.map((column, at) => (
        <td key={column} className="px-1!" data-cell={`${index}:${at}`}>
          <input
            aria-label={`Row ${number}: ${column}`}
            className={`${CELL} font-mono text-[13px] ${differs(valueOf(row, column), valueOf(first, column))}`}
            value={valueOf(row, column)}
            onChange={(event) => onChange({ ...row, values: { ...row.values, [column]: event.target.value } })}
          />
        </td>
      ))}
      <td className="px-1! whitespace-nowrap">
        <button type="button" className="button button-quiet button-small" aria-label={`Copy row ${number}`} onClick={onCopy}>
          <Copy size={15} aria-hidden />
        </button>
        <button type="button" className="button button-quiet button-small" aria-label={`Take row ${number} out`} onClick={onRemove}>
          <Trash2 size={15} aria-hidden />
        </button>
      </td>
    </tr>
  );
}

/** How soon the fresh values of the rows repeat. */
function FreshValues({ rows }: { readonly rows: Rows }) {
  const patterns = [
    ...new Set(
      rows
        .flatMap(({ values }) => Object.values(values).flatMap(parseTemplate))
        .flatMap((part) => (part.kind === 'new' ? [part.pattern] : [])),
    ),
  ];
  if (patterns.length === 0) return null;
  return (
    <p className="px-2 pt-2 text-[13px] text-soft">
      {patterns.map((pattern) => {
        const count = countFreshValues(pattern);
        return (
          <span key={pattern} className="mr-4">
            <span className="font-mono">{`{new ${pattern}}`}</span> has {count.toLocaleString('en')} values; after{' '}
            {countUntilRepeat(count).toLocaleString('en')} attempts a repeat is as likely as not.
          </span>
        );
      })}
    </p>
  );
}

interface RowFilesProps {
  readonly code: string;
  readonly hasRows: boolean;
  readonly canEdit: boolean;
  readonly onRead: (rows: Rows) => void;
}

/** Rows come from a spreadsheet, and go to one. */
function RowFiles({ code, hasRows, canEdit, onRead }: RowFilesProps) {
  const { api } = useProgramme();
  const notify = useNotice();
  const read = async (file: File) => {
    const form = new FormData();
    form.set('file', file);
    try {
      const { rows, problems } = await call(api, 'readDataRows', { params: { code }, form });
      if (problems.length > 0) notify({ kind: 'problem', text: `${file.name}: ${tellFirst(problems)} Nothing was taken in.` });
      else {
        onRead(rows);
        notify({ kind: 'done', text: `${countOf(rows.length, 'row')} taken in from ${file.name}.` });
      }
    } catch (error) {
      notify({ kind: 'problem', text: toMessage(error) });
    }
  };
  const tellFirst = ([first, ...others]: readonly { readonly message: string }[]) =>
    `${first?.message ?? ''}${others.length > 0 ? ` And ${countOf(others.length, 'thing')} more.` : ''}`;
  return (
    <>
      {hasRows && (
        <a className="button button-small" href={toAddress(api, 'exportDataRows', { params: { code } })} download>
          <FileDown size={14} aria-hidden /> Export
        </a>
      )}
      {canEdit && (
        <FileButton label="File with data rows" accept=".xlsx,.csv,.tsv,.txt" isSmall onChoose={(file) => void read(file)}>
          <FileUp size={14} aria-hidden /> Import
        </FileButton>
      )}
    </>
  );
}
