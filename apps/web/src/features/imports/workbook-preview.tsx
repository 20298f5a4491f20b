import type { ImportPreview } from '@kindred-baton/contracts/imports/import';
import type { ReactNode } from 'react';
import { countOf } from '../../ui/format.ts';
import { TableHead } from '../../ui/framed-table.tsx';

/** What a workbook would bring, and what is wrong in it, each with its place. */
export function WorkbookPreview({ preview }: { readonly preview: ImportPreview }) {
  const { alreadyThere: there } = preview;
  const unchanged = [
    there.nodes > 0 ? countOf(there.nodes, 'node') : '',
    there.tests > 0 ? countOf(there.tests, 'test') : '',
    there.scenarios > 0 ? countOf(there.scenarios, 'scenario') : '',
  ].filter((part) => part !== '');
  return (
    <>
      {unchanged.length > 0 && !preview.isStored && (
        <p className="text-soft">Already there and left as they are: {unchanged.join(', ')}.</p>
      )}
      {preview.otherSteps.length > 0 && (
        <p role="status" className="font-semibold">
          This file has other steps for {listSome(preview.otherSteps)}. A workbook changes no test that is there: bring them as a list of
          tests, and you see each change first.
        </p>
      )}
      <div className="grid items-start gap-4 xl:grid-cols-3">
        <New
          title="Processes"
          count={preview.nodes.length}
          heads={['Code', 'Name', 'Below']}
          rows={preview.nodes.map(({ code, name, parent }) => [code, name, parent ?? 'top'])}
        />
        <New
          title="Tests"
          count={preview.tests.length}
          heads={['Code', 'Name', 'Needs → gives']}
          rows={preview.tests.map(({ code, name, steps, needs, gives }) => [
            code,
            `${name}, ${countOf(steps, 'step')}`,
            `${needs.join(', ') || 'nothing'} → ${gives.join(', ') || 'nothing'}`,
          ])}
        />
        <New
          title="Scenarios"
          count={preview.scenarios.length}
          heads={['Code', 'Name', 'Wiring']}
          rows={preview.scenarios.map(({ code, name, legs, openLegs, rows, findings }) => [
            code,
            `${name}, ${countOf(legs, 'leg')}${openLegs > 0 ? ` (${openLegs} open)` : ''}, ${countOf(rows, 'data row')}`,
            findings.length > 0 ? findings.join(' ') : 'arrives',
          ])}
        />
      </div>
    </>
  );
}

const ROWS_SHOWN = 300;
const CODES_SHOWN = 12;

function listSome(codes: readonly string[]): string {
  const more = codes.length - CODES_SHOWN;
  return codes.slice(0, CODES_SHOWN).join(', ') + (more > 0 ? ` and ${more} more` : '');
}

interface NewProps {
  readonly title: string;
  readonly count: number;
  readonly heads: readonly string[];
  readonly rows: readonly (readonly ReactNode[])[];
}

function New({ title, count, heads, rows }: NewProps) {
  if (count === 0) return null;
  return (
    <section className="card min-w-0" aria-label={`New: ${title}`}>
      <h2 className="px-4 pt-3">
        {title} <span className="font-normal text-soft">{count} new</span>
      </h2>
      {/* A scrolling frame has to take the focus to be scrolled by keys. */}
      {/* eslint-disable-next-line jsx-a11y/no-noninteractive-tabindex */}
      <div className="max-h-[420px] overflow-auto px-2" tabIndex={0} role="group" aria-label={`${title}: list`}>
        <table className="grid-table">
          <TableHead heads={heads} />
          <tbody>
            {rows.slice(0, ROWS_SHOWN).map((row, index) => (
              <tr key={index}>
                {row.map((cell, place) => (
                  <td key={place} className={place === 0 ? 'font-mono text-[13px] whitespace-nowrap' : 'text-[13px]'}>
                    {cell}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {rows.length > ROWS_SHOWN && <p className="px-4 py-2 text-[13px] text-soft">and {rows.length - ROWS_SHOWN} more</p>}
    </section>
  );
}
