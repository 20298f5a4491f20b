import type { ProgressAxis, ProgressView } from '@kindred-baton/contracts/progress/progress';
import type { FacetName } from '@kindred-baton/core/progress/facet';
import { getFacetFilter, getFacetLabel, getNextFacet, NONE } from '@kindred-baton/core/progress/facet';
import type { Counts } from '@kindred-baton/core/progress/tally';
import { getPassShare, getRunShare, NO_COUNTS, sumCounts } from '@kindred-baton/core/progress/tally';
import { AddressLink } from '../../ui/address-link.tsx';
import { EmptyView } from '../../ui/empty-view.tsx';
import { formatShare } from '../../ui/format.ts';
import { Pages } from '../../ui/pages.tsx';
import { showLabel } from '../../ui/show-label.ts';
import { useAddress } from '../frame/address-context.tsx';
import { useProgramme } from '../frame/programme-context.tsx';
import { joinCodes } from './join-codes.ts';
import { ProgressCell } from './progress-cell.tsx';
import type { TableQuery } from './table-query.ts';
import { FIRST_PAGE } from './table-query.ts';
import { toTurnsPath } from './to-turns-path.ts';

interface ProgressTableProps {
  readonly view: ProgressView;
  readonly query: TableQuery;
}

/** Two facets crossed: a bar and a count in each cell, as wide as its share of the work, with the sums of rows and columns. */
export function ProgressTable({ view, query }: ProgressTableProps) {
  if (view.rows.size === 0) {
    return (
      <div className="card">
        <EmptyView title="No turns here">
          <p>Nothing in these cycles fits what is looked at. Widen it above, or press Esc on the strip.</p>
        </EmptyView>
      </div>
    );
  }
  const { rows, columns } = view;
  const cells = new Map(view.cells.map((cell) => [`${cell.row} ${cell.column}`, { ...NO_COUNTS, ...cell.counts }]));
  const largest = [...cells.values()].reduce((most, counts) => Math.max(most, sumCounts(counts)), 1);
  const hasGroups = query.sort === null && rows.entries.some((row) => row.group !== '');
  const cell = (counts: Counts, filters: Readonly<Record<string, string>>, widest = largest) => (
    <ProgressCell counts={counts} filters={filters} largest={widest} view={view} query={query} />
  );
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
                <AxisWord axis={rows} depth={view.path.length} />
              </th>
              {SUMS.map((head) => (
                <th key={head} scope="col" className={head === 'All' ? undefined : 'text-right!'}>
                  {head}
                </th>
              ))}
              {columns.entries.map((column, place) => (
                <th key={column.key} scope="col" className={`whitespace-normal! ${place === 0 ? AFTER_SUMS : ''}`.trimEnd()}>
                  <Heading axis="columns" entry={column} view={view} query={query} />
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.entries.map((row, index) => (
              <tr key={row.key}>
                {hasGroups && <td className="font-bold">{row.group === rows.entries[index - 1]?.group ? '' : row.group}</td>}
                <th scope="row" className={`${HELD} border-b-line-2! font-normal! whitespace-normal! text-ink!`}>
                  <Heading axis="rows" entry={row} view={view} query={query} />
                </th>
                <td>{cell(row.counts, toFilter(rows.facet, row.key), 0)}</td>
                <Shares counts={row.counts} />
                {columns.entries.map((column, place) => (
                  <td key={column.key} className={place === 0 ? AFTER_SUMS : undefined}>
                    {cell(cells.get(`${index} ${place}`) ?? NO_COUNTS, {
                      ...toFilter(rows.facet, row.key),
                      ...toFilter(columns.facet, column.key),
                    })}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
          <tfoot>
            <tr className="font-semibold [&_td]:border-t [&_td]:border-line">
              {hasGroups && <td />}
              <td className={HELD}>All</td>
              <td>{cell(view.total, {}, 0)}</td>
              <Shares counts={view.total} />
              {columns.entries.map((column, place) => (
                <td key={column.key} className={place === 0 ? AFTER_SUMS : undefined}>
                  {cell(column.counts, toFilter(columns.facet, column.key), 0)}
                </td>
              ))}
            </tr>
            <ShareRow word="Run" share={getRunShare} hasGroups={hasGroups} columns={columns} />
            <ShareRow word="Passed" share={getPassShare} hasGroups={hasGroups} columns={columns} />
          </tfoot>
        </table>
      </div>
      <ManyNote view={view} />
      <AxisPages axis={rows} noun={getFacetLabel(rows.facet)} name="fromRow" />
      <AxisPages axis={columns} noun={getFacetLabel(columns.facet)} name="fromColumn" />
    </>
  );
}

const CAPITAL = 'inline-block first-letter:uppercase';
const SUMS = ['All', 'Run', 'Passed'];

/** Stays where it is when the table is wider than its place. */
const HELD = 'sticky left-0 z-[1] min-w-[130px] bg-sheet';
/** Where the sums of rows end. */
const AFTER_SUMS = 'border-l border-line-2';

function AxisWord({ axis, depth }: { readonly axis: ProgressAxis; readonly depth: number }) {
  const { levels } = useProgramme().viewer.programme;
  const word = axis.facet === 'process' ? (levels[Math.max(1, depth)] ?? getFacetLabel(axis.facet)) : getFacetLabel(axis.facet);
  return <span className={CAPITAL}>{word}</span>;
}

interface HeadingProps extends ProgressTableProps {
  readonly axis: 'rows' | 'columns';
  readonly entry: ProgressAxis['entries'][number];
}

/** A value goes one level down: below it where it has something below, else what else it is made of, at last its turns. */
function Heading({ axis, entry, view, query }: HeadingProps) {
  const { base } = useProgramme();
  const address = useAddress();
  const { facet } = view[axis];
  const beside = view[axis === 'rows' ? 'columns' : 'rows'].facet;
  const next = getNextFacet(facet, beside);
  if (next === null || (facet === 'process' && (entry.key === '' || entry.key.startsWith('=')))) {
    const filters = { ...toFilter(facet, entry.key), ...toNarrowing(query) };
    return (
      <a
        className={`hover:underline ${CAPITAL}`}
        href={toTurnsPath({ base, cycle: joinCodes(view), scope: address.get('scope'), filters })}
        aria-label={`Turns of ${entry.name}`}
      >
        {entry.name}
      </a>
    );
  }
  const changes: Record<string, string> =
    facet === 'process' ? { scope: entry.key } : { [getFacetFilter(facet)]: entry.key || NONE, [axis]: next };
  return (
    <AddressLink className={`hover:underline ${CAPITAL}`} changes={{ ...changes, ...FIRST_PAGE }} label={`Look into ${entry.name}`}>
      {entry.name}
    </AddressLink>
  );
}

const toNarrowing = ({ narrowed }: TableQuery) => Object.fromEntries(narrowed.map(({ filter, value }) => [filter, value]));

function Shares({ counts }: { readonly counts: Counts }) {
  return [getRunShare(counts), getPassShare(counts)].map((share, index) => (
    <td key={SUMS[index + 1]} className="text-right font-mono text-[12.5px] text-soft">
      {formatShare(share)}
    </td>
  ));
}

interface ShareRowProps {
  readonly word: string;
  readonly share: (counts: Counts) => number | null;
  readonly hasGroups: boolean;
  readonly columns: ProgressAxis;
}

function ShareRow({ word, share, hasGroups, columns }: ShareRowProps) {
  return (
    <tr className="text-[12.5px] text-soft">
      {hasGroups && <td />}
      <td className={HELD}>{word}</td>
      <td colSpan={SUMS.length} />
      {columns.entries.map((column, place) => (
        <td key={column.key} className={`font-mono ${place === 0 ? AFTER_SUMS : ''}`.trimEnd()}>
          {formatShare(share(column.counts))}
        </td>
      ))}
    </tr>
  );
}

/** What stands in several lines is one in the sums: it is said, or they look wrong. */
function ManyNote({ view: { rows, columns } }: { readonly view: ProgressView }) {
  const many = [rows, columns].filter(({ isMany }) => isMany).map(({ facet }) => getFacetLabel(facet).toLowerCase());
  if (many.length === 0) return null;
  return (
    <p className="mt-1.5 text-[13px] text-soft">
      What has more than one {many.join(' or ')} stands under each, and is counted once in All.
    </p>
  );
}

/** A table that is too long or too wide to be drawn at once comes in pages; the sums count over all of them. */
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

const toFilter = (facet: FacetName, key: string): Record<string, string> => ({ [getFacetFilter(facet)]: key === '' ? NONE : key });
