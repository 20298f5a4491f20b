import type { Output } from '../../../client/call.ts';
import { useChanges } from '../../../client/use-changes.ts';
import { useRead } from '../../../client/use-read.ts';
import type { ChangeReviewView } from '@kindred-baton/contracts/scenarios/reuse';
import { useId, useState } from 'react';
import { EmptyView } from '../../../ui/empty-view.tsx';
import { countOf } from '../../../ui/format.ts';
import { PageTitle } from '../../../ui/page-title.tsx';
import { toMessage } from '../../../client/request.ts';
import { useAddress } from '../../frame/address-context.tsx';
import { useProgramme } from '../../frame/programme-context.tsx';

type Line = ChangeReviewView['scenarios'][number];

/** For every scenario that uses a test: does its new version still fit, or another test in its place? Taken over in one, some or all. */
export function ReviewView() {
  const address = useAddress();
  const [test, by] = [address.get('test') ?? '', address.get('by') ?? ''];
  const { data, error } = useRead(
    'getChangeReview',
    { input: { test, by: by === '' ? undefined : by } },
    { enabled: test !== '', retry: false },
  );
  return (
    <>
      <PageTitle
        title={data ? data.test.name : 'Change of a test'}
        about={data ? describe(data, by !== '') : 'Which scenarios would still hold?'}
      />
      <TestForm />
      {test === '' ? (
        <div className="card">
          <EmptyView title="Which test?">
            Choose one: every scenario that uses it is wired anew with its newest version, or with another test in its place.
          </EmptyView>
        </div>
      ) : error ? (
        <p role="alert" className="font-semibold text-failed">
          {toMessage(error)}
        </p>
      ) : (
        data && <Review key={`${test} ${by}`} review={data} isSwap={by !== ''} />
      )}
    </>
  );
}

function describe({ scenarios, by }: ChangeReviewView, isSwap: boolean): string {
  const open = scenarios.filter(({ isTaken }) => !isTaken);
  const breaks = open.filter(({ verdict }) => verdict === 'breaks').length;
  const what = isSwap ? `${by?.name ?? ''} in its place` : by ? `version ${by.version}${by.state === 'draft' ? ', a draft' : ''}` : '';
  return `${what}: ${open.length === 0 ? 'taken over everywhere' : `${countOf(open.length, 'scenario')} to decide, ${breaks === 0 ? 'none breaks' : `${breaks} would break`}`}`;
}

function TestForm() {
  const address = useAddress();
  const list = useId();
  const { data } = useRead('listTests', { input: { state: 'agreed|draft|retired' } });
  const field = (name: 'test' | 'by', label: string, placeholder: string) => (
    <label className="min-w-0">
      <span className="label">{label}</span>
      <input
        key={address.get(name) ?? ''}
        name={name}
        className="field"
        list={list}
        defaultValue={address.get(name) ?? ''}
        placeholder={placeholder}
      />
    </label>
  );
  return (
    <form
      className="card mb-4 grid gap-3 px-4 py-3 sm:grid-cols-[minmax(0,1fr)_minmax(0,1fr)_auto] sm:items-end"
      onSubmit={(event) => {
        event.preventDefault();
        const form = new FormData(event.currentTarget);
        const toCode = (name: string) => String(form.get(name)).trim().split(' ')[0] || null;
        address.set({ test: toCode('test'), by: toCode('by') });
      }}
    >
      {field('test', 'The test that changes', 'BIL-01')}
      {field('by', 'Another test in its place', 'its own newest version')}
      <button type="submit" className="button button-primary">
        Review
      </button>
      <datalist id={list}>
        {(data?.tests ?? []).map(({ code, name }) => (
          <option key={code} value={code}>
            {name}
          </option>
        ))}
      </datalist>
    </form>
  );
}

const VERDICT_LOOK: Readonly<Record<Line['verdict'], string>> = {
  fits: 'text-soft',
  'needs a look': 'font-semibold',
  breaks: 'font-bold text-failed',
};

function Review({ review, isSwap }: { readonly review: ChangeReviewView; readonly isSwap: boolean }) {
  const { can } = useProgramme();
  const { act } = useChanges();
  const open = review.scenarios.filter(({ isTaken }) => !isTaken);
  const [marked, setMarked] = useState<ReadonlySet<string>>(
    () => new Set(open.filter(({ verdict }) => verdict === 'fits').map(({ code }) => code)),
  );
  const isDraft = review.by?.state === 'draft';
  const take = async () => {
    const input = { test: review.test.code, scenarios: [...marked] };
    const say = ({ changed }: Output<'takeVersion'>) => `${isSwap ? 'Replaced' : 'Taken over'} in ${countOf(changed, 'scenario')}.`;
    const done = await (isSwap
      ? act('replaceTest', { input: { ...input, by: review.by?.code ?? '' } }, say)
      : act('takeVersion', { input }, say));
    if (done) setMarked(new Set());
  };
  const mark = (code: string, isOn: boolean) => setMarked(new Set(isOn ? [...marked, code] : [...marked].filter((each) => each !== code)));
  if (review.scenarios.length === 0)
    return (
      <div className="card">
        <EmptyView title="No scenario uses it">A change of this test reaches no chain.</EmptyView>
      </div>
    );
  return (
    <>
      {review.differences.length > 0 && (
        <ul className="mb-3 border-l-[3px] border-l-baton pl-2.5 text-[13px]">
          {review.differences.map((line) => (
            <li key={line}>{line}</li>
          ))}
        </ul>
      )}
      <section className="card overflow-x-auto px-2" aria-label="Scenarios that use it">
        {can('edit scenarios') && open.length > 0 && (
          <div className="flex flex-wrap items-center gap-2 px-2 py-2">
            <button
              type="button"
              className="button button-primary"
              disabled={marked.size === 0 || (isDraft && !isSwap)}
              onClick={() => void take()}
            >
              {isSwap ? 'Replace' : 'Take over'} in {countOf(marked.size, 'scenario')}
            </button>
            <button type="button" className="button button-small" onClick={() => setMarked(new Set(open.map(({ code }) => code)))}>
              Mark all
            </button>
            <button type="button" className="button button-small" onClick={() => setMarked(new Set())}>
              Mark none
            </button>
            {isDraft && !isSwap && <span className="hint">A draft is taken over once it is agreed.</span>}
          </div>
        )}
        <table className="grid-table">
          <thead>
            <tr>
              <th scope="col">
                <span className="sr-only">Mark</span>
              </th>
              <th scope="col">Scenario</th>
              <th scope="col">Legs</th>
              <th scope="col">Has</th>
              <th scope="col">Would it hold?</th>
            </tr>
          </thead>
          <tbody>
            {review.scenarios.map((line) => (
              <ReviewRow
                key={line.code}
                line={line}
                isMarked={marked.has(line.code)}
                onMark={can('edit scenarios') && !line.isTaken ? (isOn) => mark(line.code, isOn) : null}
              />
            ))}
          </tbody>
        </table>
      </section>
    </>
  );
}

function Verdict({ line }: { readonly line: Line }) {
  if (line.isTaken) return <span className="text-soft">has it already</span>;
  return (
    <>
      <span className={VERDICT_LOOK[line.verdict]}>{line.verdict}</span>
      {line.brings.map(({ rule, leg, value, message }) => (
        <span key={`${rule} ${leg} ${value}`} className="block">
          {message}
        </span>
      ))}
      {line.ends.length > 0 && <span className="block text-soft">It puts {countOf(line.ends.length, 'finding')} right.</span>}
    </>
  );
}

interface ReviewRowProps {
  readonly line: Line;
  readonly isMarked: boolean;
  /** null: there is nothing to take over, or nobody who may. */
  readonly onMark: ((isOn: boolean) => void) | null;
}

function ReviewRow({ line, isMarked, onMark }: ReviewRowProps) {
  const { base } = useProgramme();
  return (
    <tr>
      <td>
        {onMark && (
          <input type="checkbox" aria-label={`Mark ${line.code}`} checked={isMarked} onChange={(event) => onMark(event.target.checked)} />
        )}
      </td>
      <td>
        <a className="font-semibold hover:underline" href={`${base}/scenarios/${line.code}`}>
          {line.name}
        </a>{' '}
        <span className="font-mono text-[12px] text-soft">{line.code}</span>
        {line.state !== 'agreed' && <span className="tag ml-2">{line.state}</span>}
      </td>
      <td>{line.legs.join(', ')}</td>
      <td className="text-[13px] text-soft">version {line.version}</td>
      <td className="text-[13px]">
        <Verdict line={line} />
      </td>
    </tr>
  );
}
