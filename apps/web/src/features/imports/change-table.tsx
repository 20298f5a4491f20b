import { countOf } from '../../ui/format.ts';

interface ChangeLine {
  readonly kind: 'new' | 'changed';
  readonly code: string;
  readonly title: string;
  readonly changes: readonly { readonly field: string; readonly before: string; readonly after: string }[];
  /** What it consists of, to look into. */
  readonly parts?: readonly string[];
}

const SHOWN = 500;

/** New and changed things of an import, field by field. */
export function ChangeTable({ lines }: { readonly lines: readonly ChangeLine[] }) {
  if (lines.length === 0) return null;
  return (
    <section className="card" aria-label="Differences">
      {/* eslint-disable-next-line jsx-a11y/no-noninteractive-tabindex -- a scrolling frame takes the focus to be scrolled by keys */}
      <div className="max-h-[60vh] overflow-auto px-2" tabIndex={0} role="group" aria-label="What would change">
        <table className="grid-table">
          <thead>
            <tr>
              {['Code', 'What it says', '', 'Changes'].map((head, index) => (
                <th key={index} scope="col">
                  {head || <span className="sr-only">Kind</span>}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {lines.slice(0, SHOWN).map(({ kind, code, title, changes, parts }) => (
              <tr key={code}>
                <td className="font-mono text-[13px] whitespace-nowrap">{code}</td>
                <td>{parts === undefined ? title : <Parts title={title} parts={parts} />}</td>
                <td>
                  <ChangeKind kind={kind} />
                </td>
                <td className="text-[13px] text-soft">
                  <ChangeList changes={changes} />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {lines.length > SHOWN && <p className="px-4 py-2 text-[13px] text-soft">and {lines.length - SHOWN} more, which are taken in too</p>}
    </section>
  );
}

export function ChangeKind({ kind }: Pick<ChangeLine, 'kind'>) {
  const look = kind === 'new' ? 'border-baton-line bg-baton-tint text-baton-ink' : 'border-line bg-band';
  return <span className={`rounded-[5px] border px-1.5 text-[12px] ${look}`}>{kind === 'new' ? '+ new' : '≠ changed'}</span>;
}

export function ChangeList({ changes }: Pick<ChangeLine, 'changes'>) {
  return changes.map(({ field, before, after }) => (
    <span key={field} className="block">
      {field}: {before || 'nothing'} → {after || 'nothing'}
    </span>
  ));
}

function Parts({ title, parts }: { readonly title: string; readonly parts: readonly string[] }) {
  return (
    <details>
      <summary>
        {title} <span className="text-soft">{countOf(parts.length, 'step')}</span>
      </summary>
      <ol className="mt-1 list-decimal pl-6 text-[13px]">
        {parts.map((part, index) => (
          <li key={index}>{part}</li>
        ))}
      </ol>
    </details>
  );
}
