import { useRead } from '../../../client/use-read.ts';
import type { LibraryFindings } from '@kindred-baton/contracts/tests/library';
import { keepPreviousData } from '@tanstack/react-query';
import { EmptyView } from '../../../ui/empty-view.tsx';
import { countOf } from '../../../ui/format.ts';
import { PageTitle } from '../../../ui/page-title.tsx';
import { useAddress } from '../../frame/address-context.tsx';
import { useProgramme } from '../../frame/programme-context.tsx';

/** What is worth a look over the library: which tests may pass without showing anything, and which steps stand in several. */
export function LibraryFindingsView() {
  const address = useAddress();
  const rule = address.get('rule');
  const scope = address.get('scope');
  const input = { rule: rule ?? undefined, scope: scope ?? undefined };
  const { data, isPlaceholderData } = useRead('getLibraryFindings', { input }, { placeholderData: keepPreviousData });
  if (!data) return <PageTitle title="Worth a look" about="Looking through the library …" />;
  const open = data.rules.reduce((sum, each) => sum + each.count, 0);
  return (
    <>
      <PageTitle
        title="Worth a look"
        about={`${countOf(open, 'finding')} in ${countOf(data.examined, 'test')}${scope === null ? '' : ' here'}`}
      />
      <div className={`grid gap-4 lg:grid-cols-[280px_minmax(0,1fr)] ${isPlaceholderData ? 'opacity-70' : ''}`}>
        <Rules rules={data.rules} chosen={rule} />
        <div className="grid min-w-0 content-start gap-4">
          {rule === 'shared opening' && <Clones clones={data.clones} />}
          <Findings findings={data.findings} more={data.more} />
        </div>
      </div>
    </>
  );
}

function Rules({ rules, chosen }: { readonly rules: LibraryFindings['rules']; readonly chosen: string | null }) {
  const address = useAddress();
  return (
    <section className="card self-start p-2" aria-label="Rules">
      {rules.map(({ rule, title, weight, count, waived }) => (
        <button
          key={rule}
          type="button"
          aria-pressed={chosen === rule}
          disabled={count + waived === 0}
          className={`flex min-h-[32px] w-full items-center gap-2 rounded-control px-2 text-left text-[13px] enabled:hover:bg-band disabled:text-soft ${chosen === rule ? 'bg-baton-tint font-bold' : ''}`}
          onClick={() => address.set({ rule: chosen === rule ? null : rule })}
        >
          <span className="min-w-0 flex-1">{title}</span>
          {waived > 0 && <span className="text-[12px] font-normal text-soft">{waived} waived</span>}
          <span className={`tabular-nums ${weight === 'warning' && count > 0 ? 'font-bold' : ''}`}>{count}</span>
        </button>
      ))}
    </section>
  );
}

function Findings({ findings, more }: Pick<LibraryFindings, 'findings' | 'more'>) {
  const { base } = useProgramme();
  const { withScope } = useAddress();
  if (findings.length === 0)
    return (
      <div className="card">
        <EmptyView title="Nothing here is worth a look">
          Each rule says why it matters, beside the steps of the test that it is about.
        </EmptyView>
      </div>
    );
  return (
    <section className="card" aria-label="Findings">
      {/* eslint-disable-next-line jsx-a11y/no-noninteractive-tabindex -- a scrolling frame takes the focus to be scrolled by keys */}
      <div className="max-h-[max(320px,calc(100vh-262px))] overflow-auto px-2" tabIndex={0} role="group" aria-label="Findings: list">
        <table className="grid-table">
          <thead>
            <tr>
              <th scope="col">Test</th>
              <th scope="col">What is odd</th>
              <th scope="col">A way out</th>
            </tr>
          </thead>
          <tbody>
            {findings.map(({ test, rule, about, message, wayOut, waived, steps }) => (
              <tr key={`${test.code} ${rule} ${about} ${steps.join()}`} className={waived === null ? '' : 'text-soft'}>
                <td className="align-top!">
                  <a className="font-semibold hover:underline" href={withScope(`${base}/tests/${test.code}`)}>
                    <span className="mr-1.5 font-mono text-[13px] font-normal text-soft">{test.code}</span>
                    {test.name}
                  </a>
                </td>
                <td className="align-top! text-[13px]">{waived === null ? message : `Waived: ${waived}`}</td>
                <td className="align-top! text-[13px] text-soft">{wayOut}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {more > 0 && (
        <p className="px-4 py-2 text-[13px] text-soft">and {more.toLocaleString('en')} more; choose a rule, or a part of the map</p>
      )}
    </section>
  );
}

/** The runs of steps that stand in several tests, the costliest first. */
function Clones({ clones }: Pick<LibraryFindings, 'clones'>) {
  const { base } = useProgramme();
  if (clones.length === 0) return null;
  return (
    <section className="card" aria-label="Shared runs of steps">
      <h2 className="px-4 pt-3">Runs of steps that stand in several tests</h2>
      <ul className="max-h-[240px] overflow-auto px-4 pb-2">
        {clones.map(({ length, count, tests, first }) => (
          <li key={`${length} ${first} ${tests.join()}`} className="border-b border-line-2 py-1.5 text-[13px] last:border-b-0">
            <b>{length} steps</b> in {countOf(count, 'test')}, from “{first}”:{' '}
            {tests.map((code) => (
              <a key={code} className="mr-2 font-mono hover:underline" href={`${base}/tests/${code}`}>
                {code}
              </a>
            ))}
          </li>
        ))}
      </ul>
    </section>
  );
}
