import type { ComparisonView } from '@kindred-baton/contracts/scenarios/reuse';
import { countOf } from '../../../ui/format.ts';

const KIND_LABELS = { same: '', changed: 'changed', moved: 'moved', added: 'new', removed: 'gone' } as const;

/** Two scenarios, or two states of one, leg beside leg. */
export function ComparisonTable({ comparison }: { readonly comparison: ComparisonView }) {
  const differing = comparison.legs.filter(({ kind }) => kind !== 'same').length;
  return (
    <section className="card" aria-label="Comparison">
      <h2 className="px-4 pt-3">
        {comparison.isSame ? 'They are the same.' : `${countOf(differing, 'leg')} differ${differing === 1 ? 's' : ''}`}
        {comparison.data.length > 0 && `, ${countOf(comparison.data.length, 'difference')} in the data`}
      </h2>
      <div className="overflow-x-auto px-2 pb-1">
        <table className="grid-table">
          <thead>
            <tr>
              <th scope="col">{comparison.before}</th>
              <th scope="col">{comparison.after} now</th>
              <th scope="col">What differs</th>
            </tr>
          </thead>
          <tbody>
            {comparison.legs.map(({ kind, before, after, changes }, index) => (
              <tr key={index} className={kind === 'same' ? 'text-soft' : ''}>
                <td>{before && <Side side={before} isGone={kind === 'removed'} />}</td>
                <td>{after && <Side side={after} isNew={kind === 'added'} />}</td>
                <td className="text-[13px]">
                  {KIND_LABELS[kind] !== '' && <b className="mr-2">{KIND_LABELS[kind]}</b>}
                  {changes.join(' · ')}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {comparison.data.length > 0 && (
        <ul className="border-t border-line-2 px-4 py-3 text-[13px]">
          {comparison.data.map((line) => (
            <li key={line}>{line}</li>
          ))}
        </ul>
      )}
    </section>
  );
}

interface SideProps {
  readonly side: NonNullable<ComparisonView['legs'][number]['before']>;
  readonly isGone?: boolean;
  readonly isNew?: boolean;
}

function Side({ side, isGone = false, isNew = false }: SideProps) {
  return (
    <span className={isGone ? 'line-through' : isNew ? 'font-bold' : ''}>
      {side.index} {side.title} <span className="font-mono text-[12px] text-soft">{side.test ?? 'open'}</span>{' '}
      <span className="text-[12px] text-soft">{side.team}</span>
    </span>
  );
}
