import type { ImportHead } from '@kindred-baton/contracts/imports/import';

const SHOWN = 200;

/** What is wrong in a file, each with its place. */
export function ProblemTable({ problems }: { readonly problems: ImportHead['problems'] }) {
  if (problems.length === 0) return null;
  return (
    <section className="card border-l-4 border-l-failed" aria-label="To mend">
      {/* eslint-disable-next-line jsx-a11y/no-noninteractive-tabindex -- a scrolling frame takes the focus to be scrolled by keys */}
      <div className="max-h-[300px] overflow-auto px-2" tabIndex={0} role="group" aria-label="What is wrong: list">
        <table className="grid-table">
          <thead>
            <tr>
              <th scope="col">Sheet</th>
              <th scope="col">Row</th>
              <th scope="col">Column</th>
              <th scope="col">What is wrong</th>
            </tr>
          </thead>
          <tbody>
            {problems.slice(0, SHOWN).map((problem, index) => (
              <tr key={index}>
                <td className="whitespace-nowrap">{problem.sheet}</td>
                <td className="font-mono">{problem.row ?? ''}</td>
                <td className="whitespace-nowrap">{problem.column ?? ''}</td>
                <td>{problem.message}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {problems.length > SHOWN && <p className="px-4 py-2 text-soft">and {problems.length - SHOWN} more</p>}
    </section>
  );
}

/** What is odd in a file, but was read all the same. */
export function WarningList({ warnings }: { readonly warnings: readonly string[] }) {
  if (warnings.length === 0) return null;
  return (
    <details className="card px-4 py-2">
      <summary>{warnings.length === 1 ? 'One thing is odd' : `${warnings.length} things are odd`}, and was read as far as it goes</summary>
      <ul className="mt-2 grid gap-1 text-[13px] text-soft">
        {warnings.slice(0, SHOWN).map((warning) => (
          <li key={warning}>{warning}</li>
        ))}
      </ul>
    </details>
  );
}
