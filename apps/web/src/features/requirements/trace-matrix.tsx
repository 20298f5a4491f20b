import { useChanges } from '../../client/use-changes.ts';
import type { ListedRequirement, Traceability } from '@kindred-baton/contracts/requirements/requirement';
import type { KeyboardEvent, MouseEvent } from 'react';
import { BatonMark } from '../../ui/baton-mark.tsx';
import { showLabel } from '../../ui/show-label.ts';
import { PagesOf } from '../frame/pages-of.tsx';
import { useProgramme } from '../frame/programme-context.tsx';
import { RequirementMark, StandingMark } from '../progress/standing-mark.tsx';
import { describeStanding, getStandingMark } from '@kindred-baton/core/standing';

interface TraceMatrixProps {
  readonly data: Traceability;
  readonly canEdit: boolean;
}

/** Requirements down, tests across; a mark says how the test stands. A row or a column without any is a gap. */
export function TraceMatrix({ data: { requirements: rows, tests: columns, columns: across }, canEdit }: TraceMatrixProps) {
  const { base } = useProgramme();
  const { act } = useChanges();
  const onClick = ({ target }: MouseEvent) => {
    const cell = (target as HTMLElement).closest<HTMLElement>('button[data-at]');
    const [row = -1, column = -1] = (cell?.dataset['at'] ?? '').split(' ').map(Number);
    const [item, test] = [rows[row], columns[column]];
    if (!item || !test) return;
    const isLinked = !test.requirements.includes(item.code);
    void act('linkTest', { input: { requirement: item.code, test: test.code, isLinked } });
  };
  return (
    <>
      {/* The cells are buttons; the table hears their clicks and walks between them. */}
      {/* eslint-disable-next-line jsx-a11y/no-static-element-interactions */}
      <div
        className="card max-h-[calc(100vh-240px)] overflow-auto"
        onClick={onClick}
        onKeyDown={walkCells}
        onMouseOver={showLabel}
        onFocus={showLabel}
      >
        <table className={`border-separate border-spacing-0 text-[13px] ${CELLS}`} aria-label="Requirements and tests">
          <thead>
            <tr>
              <th
                scope="col"
                className="sticky top-0 left-0 z-20 min-w-[330px] border-r border-b border-line bg-sheet px-3 py-2 text-left align-bottom font-semibold text-soft"
              >
                Requirement
              </th>
              {columns.map((test) => (
                <th
                  key={test.code}
                  scope="col"
                  className={`sticky top-0 z-10 h-[116px] border-b border-line align-bottom font-normal ${test.requirements.length === 0 ? 'bg-band' : 'bg-sheet'}`}
                >
                  <a
                    className={`inline-block max-h-[86px] px-1 py-1 font-mono text-[12px] [writing-mode:vertical-rl] hover:underline ${test.requirements.length === 0 ? 'font-bold' : ''}`}
                    href={`${base}/tests/${test.code}`}
                    title={`${test.name}${test.requirements.length === 0 ? ': serves no requirement' : ''}`}
                  >
                    {test.code}
                  </a>
                  <span className="block h-[24px] text-center">
                    <StandingMark test={test.code} standing={test.standing} />
                  </span>
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map((item, row) => (
              <tr key={item.id}>
                <th
                  scope="row"
                  className={`sticky left-0 z-10 border-r border-b border-line-2 px-3 py-1 text-left font-normal ${item.tests.length === 0 ? 'bg-band' : 'bg-sheet'}`}
                >
                  <span className="flex items-center gap-2">
                    <RequirementMark code={item.code} state={item.state} proof={item.proof} />
                    <a
                      className="flex items-center gap-2 hover:underline"
                      href={`${base}/requirements?requirement=${encodeURIComponent(item.code)}`}
                    >
                      <span className="flex-none font-mono text-[12px] text-soft">{item.code}</span>
                      <span className={`max-w-[210px] truncate ${item.tests.length === 0 ? 'font-bold' : ''}`} title={item.title}>
                        {item.title}
                      </span>
                    </a>
                  </span>
                </th>
                {columns.map((test, column) => (
                  <Cell key={test.code} {...{ item, test, canEdit, row, column }} />
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <PagesOf noun="Tests" at={across} shown={columns.length} param="across" />
    </>
  );
}

/** What all cells have in common is said once. */
const CELLS =
  '[&_td]:border-b [&_td]:border-line-2 [&_td]:p-0 [&_td]:text-center [&_td>*]:flex [&_td>*]:h-[28px] [&_td>*]:w-[34px] [&_td>*]:items-center [&_td>*]:justify-center [&_td>button:hover]:bg-baton-tint';

interface CellProps {
  readonly item: ListedRequirement;
  readonly test: Traceability['tests'][number];
  readonly canEdit: boolean;
  readonly row: number;
  readonly column: number;
}

function Cell({ item, test, canEdit, row, column }: CellProps) {
  const isLinked = test.requirements.includes(item.code);
  const mark = isLinked ? <BatonMark status={test.standing ? getStandingMark(test.standing.standing) : 'waiting'} isDecoration /> : null;
  const says = `${item.code} and ${test.code}: ${isLinked ? (test.standing ? describeStanding(test.standing) : 'linked, in no cycle yet') : 'not linked'}`;
  const isGap = !isLinked && (item.tests.length === 0 || test.requirements.length === 0);
  return (
    <td className={isGap ? 'bg-band' : undefined}>
      {canEdit ? (
        <button
          type="button"
          tabIndex={row === 0 && column === 0 ? 0 : -1}
          aria-label={says}
          aria-pressed={isLinked}
          data-at={`${row} ${column}`}
        >
          {mark}
        </button>
      ) : (
        <span role="img" aria-label={says}>
          {mark}
        </span>
      )}
    </td>
  );
}

/** Arrow keys walk from cell to cell; the matrix is one stop for Tab. */
function walkCells(event: KeyboardEvent): void {
  const cell = (event.target as HTMLElement).closest('td');
  const row = cell?.parentElement as HTMLTableRowElement | null | undefined;
  if (!cell || !row) return;
  const to = {
    ArrowLeft: cell.previousElementSibling,
    ArrowRight: cell.nextElementSibling,
    ArrowUp: row.previousElementSibling?.children[cell.cellIndex],
    ArrowDown: row.nextElementSibling?.children[cell.cellIndex],
  }[event.key];
  const button = to?.querySelector('button');
  if (!button) return;
  event.preventDefault();
  button.focus();
}
