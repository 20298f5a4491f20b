import type { ProgressAxis, ProgressView } from '@kindred-baton/contracts/progress/progress';
import type { FacetName } from '@kindred-baton/core/progress/facet';
import { getFacetFilter, getFacetLabel } from '@kindred-baton/core/progress/facet';
import { NO_COUNTS, sumCounts } from '@kindred-baton/core/progress/tally';
import type { Counts } from '@kindred-baton/core/progress/tally';
import { BatonBar, describeCounts } from '../../ui/baton-mark.tsx';
import { Pages } from '../../ui/pages.tsx';
import { EmptyView } from '../../ui/empty-view.tsx';
import { showLabel } from '../../ui/show-label.ts';
import { useAddress } from '../frame/address-context.tsx';
import { useProgramme } from '../frame/programme-context.tsx';
import { toTurnsPath } from './to-turns-path.ts';

interface ProgressTableProps {
  readonly view: ProgressView;
  readonly rows: FacetName;
  readonly columns: FacetName;
  readonly rowsName: string;
}

/** Two facets crossed: a bar and a count in each cell, as wide as its share of the work. */
export function ProgressTable({ view, rows, columns, rowsName }: ProgressTableProps) {
  if (view.rows.size === 0) {
    return (
      <div className="card">
        <EmptyView title="No turns here">
          <p>This branch of the map has no turns in the cycle. Press Esc on the strip to widen.</p>
        </EmptyView>
      </div>
    );
  }
  const cells = new Map(view.cells.map((cell) => [`${cell.row} ${cell.column}`, { ...NO_COUNTS, ...cell.counts }]));
  const largest = [...cells.values()].reduce((most, counts) => Math.max(most, sumCounts(counts)), 1);
  const shown = view.rows.entries;
  const hasGroups = shown.some((row) => row.group !== '');
  return (
    <>
      <div className="card overflow-x-auto px-1.5">
        <table onMouseOver={showLabel} onFocus={showLabel} className="grid-table [&_td]:px-1.5! [&_th]:px-1.5!">
          <thead>
            <tr>
              {hasGroups && (
                <th scope="col">
                  <span className="sr-only">Group</span>
                </th>
              )}
              <th scope="col" className={HELD}>
                {rowsName}
              </th>
              {view.columns.entries.map((column) => (
                <th key={column.key} scope="col">
                  {column.name}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {shown.map((row, index) => (
              <tr key={row.key}>
                {hasGroups && <td className="font-bold">{row.group === shown[index - 1]?.group ? '' : row.group}</td>}
                <th scope="row" className={`${HELD} border-b-line-2! font-normal! whitespace-normal! text-ink!`}>
                  {row.name}
                </th>
                {view.columns.entries.map((column, place) => (
                  <td key={column.key}>
                    <Cell
                      counts={cells.get(`${index} ${place}`) ?? NO_COUNTS}
                      largest={largest}
                      filters={{ ...toFilter(rows, row.key), ...toFilter(columns, column.key) }}
                      cycle={view.cycle?.code ?? ''}
                    />
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
          <tfoot>
            <tr className="font-semibold">
              {hasGroups && <td className="border-t border-line" />}
              <td className={`${HELD} border-t border-line`}>All</td>
              {view.columns.entries.map((column, place) => (
                <td key={column.key} className="border-t border-line">
                  <Cell
                    counts={view.columnTotals[place] ?? NO_COUNTS}
                    largest={0}
                    filters={toFilter(columns, column.key)}
                    cycle={view.cycle?.code ?? ''}
                  />
                </td>
              ))}
            </tr>
          </tfoot>
        </table>
      </div>
      <AxisPages axis={view.rows} noun={rowsName} name="fromRow" />
      <AxisPages axis={view.columns} noun={getFacetLabel(columns)} name="fromColumn" />
    </>
  );
}

/** Stays where it is when the table is wider than its place. */
const HELD = 'sticky left-0 z-[1] min-w-[150px] bg-sheet';

/** A table that is too long or too wide to be drawn at once comes in pages; the last row counts over all of them. */
function AxisPages({ axis, noun, name }: { readonly axis: ProgressAxis; readonly noun: string; readonly name: string }) {
  const address = useAddress();
  const { from, size, entries } = axis;
  const go = (to: number) => address.set({ [name]: to === 0 ? null : String(to) });
  return (
    <Pages
      {...{ noun, from, size, to: from + entries.length - 1 }}
      onBefore={() => go(Math.max(0, from - 1))}
      onNext={() => go(from + entries.length)}
    />
  );
}

function toFilter(facet: FacetName, key: string): Record<string, string> {
  const filter = getFacetFilter(facet);
  return { [filter]: key === '' ? '-' : key };
}

interface CellProps {
  readonly counts: Counts;
  /** The largest cell, which gets the widest bar; 0: a bar of full width. */
  readonly largest: number;
  readonly filters: Readonly<Record<string, string>>;
  readonly cycle: string;
}

const WIDEST_PX = 52;
const NARROWEST_PX = 20;

function Cell({ counts, largest, filters, cycle }: CellProps) {
  const { base } = useProgramme();
  const address = useAddress();
  const total = sumCounts(counts);
  if (total === 0) return <span className="text-soft">–</span>;
  const width = largest === 0 ? WIDEST_PX : NARROWEST_PX + ((WIDEST_PX - NARROWEST_PX) * total) / largest;
  const run = counts.passed + counts.failed;
  return (
    <a
      className="group inline-flex items-center gap-2 whitespace-nowrap"
      href={toTurnsPath({ base, cycle, scope: address.get('scope'), filters })}
      aria-label={`${run}/${total - counts.skipped} run: ${describeCounts(counts)}`}
    >
      <span style={{ width }} className="flex-none">
        <BatonBar counts={counts} isDecoration />
      </span>
      <span className="font-mono text-[12.5px] text-soft group-hover:text-ink group-hover:underline">
        {run}/{total - counts.skipped}
      </span>
    </a>
  );
}
