import { useRead } from '../../client/use-read.ts';
import type { TestDetail } from '@kindred-baton/contracts/tests/test';
import type { StepDifference } from '@kindred-baton/core/tests/compare-versions';
import { compareVersions } from '@kindred-baton/core/tests/compare-versions';
import { printStep } from '@kindred-baton/core/tests/print-step';
import { Choose } from '../../ui/menus/choose.tsx';
import { useAddress } from '../frame/address-context.tsx';

const LABELS: Readonly<Record<StepDifference['kind'], { readonly word: string; readonly look: string }>> = {
  same: { word: '', look: 'text-soft' },
  changed: { word: 'changed', look: '' },
  moved: { word: 'moved', look: '' },
  added: { word: 'added', look: '' },
  removed: { word: 'removed', look: '' },
};

/** Two versions side by side, step by step. */
export default function CompareView({
  test,
  before,
  after,
}: {
  readonly test: TestDetail;
  readonly before: number;
  readonly after: number;
}) {
  const address = useAddress();
  const older = useVersion(test, before);
  const newer = useVersion(test, after);
  const choices = test.versions.map(({ number, state }) => ({ key: String(number), name: `${number}, ${state}` }));
  const rows = older && newer ? compareVersions(older.steps, newer.steps) : [];
  const counts = (['added', 'removed', 'changed', 'moved'] as const).flatMap((kind) => {
    const count = rows.filter((row) => row.kind === kind).length;
    return count > 0 ? [`${count} ${kind}`] : [];
  });
  return (
    <section className="card min-w-0" aria-label="Two versions">
      <div className="flex flex-wrap items-center gap-2 border-b border-line-2 px-4 py-2.5">
        <Choose label="Version" chosen={String(before)} choices={choices} onChoose={(key) => address.set({ compare: `${key}-${after}` })} />
        <span aria-hidden>→</span>
        <Choose label="Version" chosen={String(after)} choices={choices} onChoose={(key) => address.set({ compare: `${before}-${key}` })} />
        <b className="mr-auto pl-2">{older && newer ? counts.join(', ') || 'the same steps' : 'On the way …'}</b>
        <button type="button" className="button button-small" onClick={() => address.set({ compare: null })}>
          Back to the steps
        </button>
      </div>
      <div className="overflow-x-auto px-2">
        <table className="grid-table">
          <thead>
            <tr>
              <th scope="col">Version {before}</th>
              <th scope="col">
                <span className="sr-only">What became of it</span>
              </th>
              <th scope="col">Version {after}</th>
            </tr>
          </thead>
          <tbody>
            {rows.map((row, index) => (
              <tr key={index} className={LABELS[row.kind].look}>
                <td className="w-1/2 align-top! text-[13px]">
                  {'before' in row && <Line row={row.before} isStruck={row.kind === 'removed'} />}
                </td>
                <td className="align-top!">{row.kind !== 'same' && <span className="tag">{LABELS[row.kind].word}</span>}</td>
                <td className="w-1/2 align-top! text-[13px]">
                  {'after' in row && <Line row={row.after} isStrong={row.kind === 'added' || row.kind === 'changed'} />}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  );
}

interface LineProps {
  readonly row: { readonly index: number; readonly step: Parameters<typeof printStep>[0] };
  readonly isStruck?: boolean;
  readonly isStrong?: boolean;
}

function Line({ row, isStruck = false, isStrong = false }: LineProps) {
  return (
    <span className={isStrong ? 'font-semibold' : ''}>
      <span className="mr-2 font-mono text-soft">{row.index + 1}</span>
      {isStruck ? <del>{printStep(row.step)}</del> : printStep(row.step)}
    </span>
  );
}

function useVersion(test: TestDetail, number: number) {
  const isHere = test.version.number === number;
  const { data } = useRead('getTest', { params: { code: test.code }, input: { version: number } }, { enabled: !isHere });
  return isHere ? test.version : data?.version;
}
